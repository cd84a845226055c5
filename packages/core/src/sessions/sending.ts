import { NO_LAYER_3 } from '../ax25/frame.js';
import { carriedBy, type Draft } from './draft.js';
import { acknowledged } from './receiving.js';
import { reestablish } from './establishing.js';
import { MOST_SEGMENTS, segment, SEGMENT_PID } from '../ax25/segmentation.js';
import { limitsOf } from './limits.js';
import type { Piece } from './session.js';

/** Information frames out, their acknowledgement, and asking after them. */

/** Cut into frames; they wait until the window has room. */
export function enqueue(draft: Draft, octets: Uint8Array, pid = NO_LAYER_3): void {
  const { packetOctets, segments } = limitsOf(draft);
  const pieces =
    segments && octets.length > packetOctets
      ? segmented(octets, pid, packetOctets)
      : cut(octets, packetOctets).map((part) => ({ pid, octets: part }));
  draft.state.pending = [...draft.state.pending, ...pieces];
}

function cut(octets: Uint8Array, length: number): Uint8Array[] {
  return Array.from({ length: Math.ceil(octets.length / length) }, (_, i) =>
    octets.slice(i * length, (i + 1) * length),
  );
}

/** Wholes that the other end gets whole; the first segment of each has the PID besides its own octet. */
function segmented(octets: Uint8Array, pid: number, packetOctets: number): Piece[] {
  return cut(octets, MOST_SEGMENTS * (packetOctets - 1) - 1).flatMap((whole) =>
    segment(pid, whole, packetOctets).map((info, i) => ({
      pid: SEGMENT_PID,
      octets: info,
      carries: info.length - (i === 0 ? 2 : 1),
    })),
  );
}

/** Sends what the window has room for ("I frame pops off queue"); not while the other end is being asked after. */
export function pump(draft: Draft): void {
  const { state } = draft;
  if (state.phase !== 'connected') return;
  if (state.peerBusy) return keepAsking(draft);
  while (draft.outstanding < Math.min(state.room, draft.windowSize)) {
    const again = state.window[draft.outstanding];
    const piece = again ?? state.pending[0];
    if (!piece) return;
    if (!again) {
      state.window = [...state.window, piece];
      state.pending = state.pending.slice(1);
    } else state.resent++;
    sendNext(draft, piece, again === undefined);
  }
}

function sendNext(draft: Draft, piece: Piece, isNew: boolean): void {
  const { state } = draft;
  draft.command({ kind: 'I', pf: false, ns: state.vs, nr: state.vr }, piece);
  state.vs = draft.plus(state.vs, 1);
  acknowledged(draft);
  if (draft.isRunning('T1')) return;
  draft.stop('T3');
  draft.selectT1();
  draft.start('T1');
  if (isNew) state.timedAtMs = draft.atMs;
}

/** While the other end is busy T1 goes on, so that a lost RR does not end everything. */
function keepAsking(draft: Draft): void {
  const { state } = draft;
  if (state.window.length + state.pending.length > 0 && !draft.isRunning('T1')) draft.start('T1');
}

/**
 * N(R) of any frame: everything before it has arrived. Within the window it counts; one from the past, overtaken on the
 * way, is passed over and counted, where the diagrams reset the link (declared deviation: digipeaters reorder). Only as
 * the answer to our own question a number out of the window means that the two ends differ.
 * False when the link was reset.
 */
export function takeAcknowledgement(draft: Draft, nr: number, answersPoll: boolean): boolean {
  const { state } = draft;
  const count = draft.distance(state.va, nr);
  if (count > state.window.length) {
    state.stale++;
    if (!answersPoll) return true;
    draft.trouble('J: N(R) out of sequence');
    reestablish(draft);
    return false;
  }
  if (count === 0) return true;
  const confirmed = state.window.slice(0, count).reduce((sum, piece) => sum + carriedBy(piece), 0);
  // After going back, frames that were sent before may be acknowledged ahead of V(S).
  if (count > draft.outstanding) state.vs = nr;
  state.window = state.window.slice(count);
  state.va = nr;
  state.rc = 0;
  state.settled = true;
  state.room++;
  draft.measure();
  draft.tell({ kind: 'confirmed', octets: confirmed });
  return true;
}

/** T1 runs while something is unacknowledged, T3 while nothing is; pump() starts T1 again for what waits. */
export function setTimers(draft: Draft, hadProgress: boolean): void {
  if (draft.outstanding === 0) {
    draft.stop('T1');
    draft.selectT1();
    draft.start('T3');
  } else if (hadProgress) {
    draft.selectT1();
    draft.start('T1');
  }
}

/** "Invoke retransmission": all from there on again. */
export function goBackTo(draft: Draft, nr: number): void {
  draft.state.vs = nr;
  draft.state.timedAtMs = undefined;
  draft.stop('T1');
}

/** One frame again, as asked by SREJ. */
export function sendAgain(draft: Draft, number: number): void {
  const { state } = draft;
  const piece = state.window[draft.distance(state.va, number)];
  if (!piece) return;
  draft.command({ kind: 'I', pf: false, ns: number, nr: state.vr }, piece);
  state.resent++;
  state.timedAtMs = undefined;
  acknowledged(draft);
}

/** "Transmit enquiry": are you there, and what have you got? */
export function ask(draft: Draft): void {
  const { state } = draft;
  state.phase = 'timer recovery';
  state.timedAtMs = undefined;
  draft.stop('T3');
  draft.command({ kind: state.ownBusy ? 'RNR' : 'RR', pf: true, nr: state.vr });
  acknowledged(draft);
  draft.selectT1();
  draft.start('T1');
}

/**
 * A crowded channel is not helped by a full window: fewer frames at once until acknowledgements come again (beyond the
 * diagrams; as on any shared way, additive increase and multiplicative decrease).
 */
function halveRoom(draft: Draft): void {
  draft.state.room = Math.max(1, Math.floor(Math.min(draft.state.room, draft.windowSize) / 2));
}

/** T1 rang: ask, until N2 times without progress. */
export function askAfterTimeout(draft: Draft): void {
  const { state, options } = draft;
  state.timeouts++;
  if (state.rc >= options.retries) {
    draft.response({ kind: 'DM', pf: false });
    return draft.disconnect('no answer');
  }
  state.rc++;
  halveRoom(draft);
  ask(draft);
}
