import { NO_LAYER_3, type Ax25Frame } from '../ax25/frame.js';
import { reassemble, SEGMENT_PID } from '../ax25/segmentation.js';
import { isMalformed } from '../bits/malformed.js';
import type { Draft } from './draft.js';
import type { Piece } from './session.js';

/** Taking information frames in ("I command visible", "Check I frame"), and answering for them. */

export function receiveInformation(draft: Draft, frame: Ax25Frame): void {
  const { state } = draft;
  const { control } = frame;
  if (control.kind !== 'I') return;
  const piece: Piece = { pid: frame.pid ?? NO_LAYER_3, octets: frame.info };
  if (state.ownBusy) {
    if (control.pf) answerPoll(draft);
    return;
  }
  const ahead = draft.distance(state.vr, control.ns);
  if (ahead === 0) takeInOrder(draft, piece);
  else if (!state.selective) return askForAll(draft, control.pf);
  else if (ahead < draft.receiveWindow) return takeAhead(draft, control.ns, piece, control.pf);
  if (control.pf) answerPoll(draft);
  // In its turn, or had before: then its acknowledgement was lost, and another one is due.
  else acknowledgeLater(draft);
}

function takeInOrder(draft: Draft, piece: Piece): void {
  const { state } = draft;
  state.rejecting = false;
  deliver(draft, piece);
  const early = new Map(state.early);
  const asked = new Set(state.asked);
  for (let next = early.get(state.vr); next; next = early.get(state.vr)) {
    early.delete(state.vr);
    asked.delete(state.vr);
    deliver(draft, next);
  }
  state.early = early;
  state.asked = asked;
  askForMissing(draft);
}

function deliver(draft: Draft, { pid, octets }: Piece): void {
  const { state } = draft;
  state.vr = draft.plus(state.vr, 1);
  state.unacknowledged++;
  state.settled = true;
  if (pid === SEGMENT_PID) return gather(draft, octets);
  draft.tell({ kind: 'data', octets, pid });
}

/** A part of something longer; with the last one the whole is there. */
function gather(draft: Draft, info: Uint8Array): void {
  const [gathered, whole] = reassemble(draft.state.gathered, info);
  draft.state.gathered = gathered;
  if (whole === undefined) return;
  if (isMalformed(whole)) return draft.trouble('a segment is missing');
  draft.tell({ kind: 'data', octets: whole.octets, pid: whole.pid });
}

/**
 * Out of its turn: one before it is missing, or it was had before; numbers alone do not tell. REJ once, with F where it was
 * asked for, says what is expected and acknowledges all before it; until that comes, only polls and copies are answered.
 */
function askForAll(draft: Draft, poll: boolean): void {
  const { state } = draft;
  if (state.rejecting) return poll ? answerPoll(draft) : acknowledgeLater(draft);
  state.rejecting = true;
  state.rejects++;
  draft.response({ kind: 'REJ', pf: poll, nr: state.vr });
  acknowledged(draft);
}

/** Some before it are missing: it is kept, and they are asked for. */
function takeAhead(draft: Draft, ns: number, piece: Piece, poll: boolean): void {
  const { state } = draft;
  state.early = new Map([...state.early, [ns, piece]]);
  askForMissing(draft);
  if (poll) answerPoll(draft);
}

/** Each missing frame is asked for once; the sender's poll asks for it again. F is 0: nothing is acknowledged by it. */
function askForMissing(draft: Draft): void {
  const { state } = draft;
  let ahead = 0;
  for (const number of state.early.keys()) ahead = Math.max(ahead, draft.distance(state.vr, number));
  for (let i = 0; i < ahead; i++) {
    const number = draft.plus(state.vr, i);
    if (state.early.has(number) || state.asked.has(number)) continue;
    state.asked = new Set([...state.asked, number]);
    state.rejects++;
    draft.response({ kind: 'SREJ', pf: false, nr: number });
  }
}

/**
 * "Enquiry response": where we stand, with F set. One frame alone: a second would meet the other end's next ones. SREJ
 * acknowledges what is before the frame that it asks for.
 */
export function answerPoll(draft: Draft): void {
  const { state } = draft;
  const isMissing = state.early.size > 0 && !state.ownBusy;
  if (isMissing) state.asked = new Set([state.vr]);
  draft.response({ kind: isMissing ? 'SREJ' : state.ownBusy ? 'RNR' : 'RR', pf: true, nr: state.vr });
  acknowledged(draft);
}

/** Everything received so far has been acknowledged by a frame just sent. */
export function acknowledged(draft: Draft): void {
  draft.state.unacknowledged = 0;
  draft.stop('T2');
}

/**
 * T2: one answer for several frames; at once when the other end can send no more. Heard direct it begins anew with each frame:
 * an answer in mid-window would have to wait for its end anyway, and leave the last frame to an answer of its own. Over
 * digipeaters frames come far apart, and waiting for the last would cost more than it saves.
 */
function acknowledgeLater(draft: Draft): void {
  const isDirect = draft.options.via.length === 0;
  if (draft.state.unacknowledged >= draft.windowSize) acknowledgeNow(draft);
  else if (isDirect || !draft.isRunning('T2')) draft.start('T2');
}

export function acknowledgeNow(draft: Draft): void {
  const { state } = draft;
  draft.response({ kind: state.ownBusy ? 'RNR' : 'RR', pf: false, nr: state.vr });
  acknowledged(draft);
}
