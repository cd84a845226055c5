import { start, type Moment, type Stepped, type TimerEffect, type TimerEvent } from '../machine/machine.js';

/**
 * One half-duplex radio channel shared by many sets, at frame level: true air time, carrier sense and p-persistence
 * (KISS paper), collisions, capture, hidden sets. Pure: the owner keeps the timers and throws the dice.
 *
 *   offer ──> waiting (own frames in order) ──slot──> on the air ──ended──> received or lost, by each set that it reaches
 *
 * A set that gets on the air sends everything that it has waiting in one go: one TXDELAY, frame after frame, one tail; what
 * it is offered meanwhile goes out behind.
 */

/** How a set gets on the air. */
export interface Access {
  readonly txDelayMs: number;
  /** 0–1: chance to send in a slot in which the channel is clear. */
  readonly persistence: number;
  readonly slotTimeMs: number;
  readonly txTailMs: number;
}

export const USUAL_ACCESS: Access = { txDelayMs: 300, persistence: 0.25, slotTimeMs: 100, txTailMs: 30 };

/** What is the same for all sets. hear(receiver, sender): dBm, at the time of the call. */
export interface ChannelPhysics {
  readonly sets: readonly string[];
  readonly hear: (receiver: string, sender: string) => number;
  /** Those of the sets that could hear this one at all; left out: all. */
  readonly inReach?: (sender: string) => readonly string[];
  /** Weakest signal that is read, and that opens the carrier detect, dBm. */
  readonly thresholdDbm: number;
  /** How far one signal must stand above the sum of the others to be read, dB. */
  readonly captureDb: number;
  /** A carrier younger than this is not noticed yet, ms. */
  readonly senseAfterMs: number;
}

/** FM receivers hold the stronger of two signals from about 6 dB on; a carrier is noticed after some 30 ms (common practice, no source). */
export const USUAL_CAPTURE_DB = 6;
export const USUAL_SENSE_MS = 30;

export interface Waiting {
  readonly id: number;
  readonly from: string;
  readonly airTimeMs: number;
  readonly access: Access;
}

/** One frame in the air. keyedMs: since when its set holds the carrier, which is before startMs for all but the first. */
interface Transmission {
  readonly id: number;
  readonly from: string;
  readonly keyedMs: number;
  readonly startMs: number;
  readonly endMs: number;
}

export interface ChannelState {
  readonly waiting: readonly Waiting[];
  /** Running ones, and those ended ones that overlap a running one. */
  readonly onAir: readonly Transmission[];
}

export const QUIET: ChannelState = { waiting: [], onAir: [] };

/** Timers: `slot` and `end`, each with the number of its frame. */
export type ChannelTimer = `${'slot' | 'end'} ${number}`;
export type ChannelEvent = { readonly kind: 'offer'; readonly frame: Waiting } | TimerEvent;

export type LossReason = 'collision' | 'sending itself';

export type ChannelEffect =
  | TimerEffect<ChannelTimer>
  | { readonly kind: 'keyed'; readonly id: number; readonly from: string }
  | { readonly kind: 'received'; readonly id: number; readonly by: string; readonly dbm: number }
  | { readonly kind: 'lost'; readonly id: number; readonly by: string; readonly reason: LossReason }
  /** It has left the air, and everybody whom it reached was told. */
  | { readonly kind: 'gone'; readonly id: number };

type Outcome = Stepped<ChannelState, ChannelEffect>;

/** What a step is to know: the dice are thrown where a set decides whether to send. */
export interface ChannelContext extends Moment {
  readonly physics: ChannelPhysics;
}

export function step(state: ChannelState, event: ChannelEvent, context: ChannelContext): Outcome {
  const { atMs } = context;
  switch (event.kind) {
    case 'offer': {
      const { frame } = event;
      const running = state.onAir.filter(({ from, endMs }) => from === frame.from && endMs > atMs).at(-1);
      if (running) return append(state, frame, running, atMs);
      const isFirst = !state.waiting.some(({ from }) => from === frame.from);
      const queued = { ...state, waiting: [...state.waiting, frame] };
      // A set sends its frames in their order: the later ones wait for the first.
      return isFirst ? tryToSend(queued, frame, context) : [queued, []];
    }
    case 'timer':
      return rang(state, event.timer, context);
  }
}

function rang(state: ChannelState, timer: string, context: ChannelContext): Outcome {
  const isEnd = timer.startsWith('end ');
  const id = Number(timer.slice(isEnd ? 4 : 5));
  if (isEnd) return end(state, id, context);
  const frame = state.waiting.find((one) => one.id === id);
  return frame ? tryToSend(state, frame, context) : [state, []];
}

function tryToSend(state: ChannelState, frame: Waiting, { atMs, dice, physics }: ChannelContext): Outcome {
  const { id, from, access } = frame;
  if (isBusyFor(state, from, atMs, physics) || dice >= access.persistence)
    return [state, [start(`slot ${id}`, access.slotTimeMs)]];
  const own = state.waiting.filter((other) => other.from === from);
  const sent = inOneGo(own, atMs);
  return [
    { waiting: state.waiting.filter((other) => other.from !== from), onAir: [...state.onAir, ...sent] },
    sent.flatMap((one): ChannelEffect[] => [
      { kind: 'keyed', id: one.id, from },
      start(`end ${one.id}`, one.endMs - atMs),
    ]),
  ];
}

/** Behind what its set is sending; the tail that was to end it becomes flags between the two. */
function append(state: ChannelState, frame: Waiting, running: Transmission, atMs: number): Outcome {
  const { id, from, airTimeMs, access } = frame;
  const startMs = running.endMs;
  const sent = { id, from, keyedMs: running.keyedMs, startMs, endMs: startMs + airTimeMs - access.txDelayMs };
  return [
    { ...state, onAir: [...state.onAir, sent] },
    [{ kind: 'keyed', id, from }, start(`end ${id}`, sent.endMs - atMs)],
  ];
}

/** The frames back to back: TXDELAY before the first, the tail behind the last. */
function inOneGo(frames: readonly Waiting[], keyedMs: number): Transmission[] {
  let endMs = keyedMs;
  return frames.map(({ id, from, airTimeMs, access: { txDelayMs, txTailMs } }, i) => {
    const startMs = endMs;
    const isLast = i === frames.length - 1;
    endMs += airTimeMs - (i === 0 ? 0 : txDelayMs) - (isLast ? 0 : txTailMs);
    return { id, from, keyedMs, startMs, endMs };
  });
}

function isBusyFor(state: ChannelState, set: string, atMs: number, physics: ChannelPhysics): boolean {
  const { hear, thresholdDbm, senseAfterMs } = physics;
  return state.onAir.some(
    ({ from, keyedMs, endMs }) =>
      endMs > atMs && (from === set || (atMs - keyedMs >= senseAfterMs && hear(set, from) >= thresholdDbm)),
  );
}

function end(state: ChannelState, id: number, { atMs, physics }: ChannelContext): Outcome {
  const ended = state.onAir.find((one) => one.id === id);
  if (!ended) return [state, []];
  const rivals = state.onAir.filter(
    (one) => one !== ended && one.startMs < ended.endMs && one.endMs > ended.startMs,
  );
  const effects: ChannelEffect[] = [];
  for (const set of physics.inReach?.(ended.from) ?? physics.sets) {
    const outcome = outcomeFor(set, ended, rivals, physics);
    if (outcome) effects.push(outcome);
  }
  effects.push({ kind: 'gone', id });
  return [{ ...state, onAir: withoutPast(state.onAir, atMs) }, effects];
}

function outcomeFor(
  by: string,
  { id, from }: Transmission,
  rivals: readonly Transmission[],
  { hear, thresholdDbm, captureDb }: ChannelPhysics,
): ChannelEffect | undefined {
  if (by === from) return undefined;
  const dbm = hear(by, from);
  if (dbm < thresholdDbm) return undefined;
  if (rivals.some((rival) => rival.from === by)) return { kind: 'lost', id, by, reason: 'sending itself' };
  let rivalMw = 0;
  for (const rival of rivals) rivalMw += 10 ** (hear(by, rival.from) / 10);
  if (rivalMw > 0 && dbm - 10 * Math.log10(rivalMw) < captureDb)
    return { kind: 'lost', id, by, reason: 'collision' };
  return { kind: 'received', id, by, dbm };
}

/** What ended before every one still running began can disturb nothing more. */
function withoutPast(onAir: readonly Transmission[], atMs: number): readonly Transmission[] {
  let earliestMs = atMs;
  for (const { startMs, endMs } of onAir) if (endMs > atMs && startMs < earliestMs) earliestMs = startMs;
  return onAir.filter(({ endMs }) => endMs > earliestMs);
}
