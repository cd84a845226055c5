import {
  start,
  stop,
  type Moment,
  type Stepped,
  type TimerEffect,
  type TimerEvent,
} from '../machine/machine.js';

/**
 * The one way out of a link: which of the frames that wait goes next, and when.
 *
 *   offer ──> waiting ──> (the channel is clear of our last over) ──> hand: several frames as one over
 *                │     └─> (the over of this owner is still on the air) ──> hand: behind it
 *                └──> drop: expired · replaced · withdrawn · closed · too many waiting · too long
 *
 * Who goes first follows from the class, in the order of CLASSES; a class that has waited for its least share of the air
 * goes before that order. Within a class owners take turns, whatever one of them has waiting. Each owner's frames keep
 * their order, since the numbers of a session count on it: the most urgent of them speaks for those before it.
 * Permission is not asked here: whoever closes the lock closes this too.
 */
export const CLASSES = [
  'acknowledgement',
  'test',
  'session',
  'message',
  'beacon',
  'shared',
  'gated',
  'digipeated',
] as const;
export type SendClass = (typeof CLASSES)[number];

/**
 * The part of our air time that a class keeps while it has something waiting, however much is waiting before it. They leave
 * a third to the order itself; an acknowledgement goes first anyway.
 */
export const LEAST_SHARE: Readonly<Record<SendClass, number>> = {
  acknowledgement: 0,
  test: 0.05,
  session: 0.2,
  message: 0.1,
  beacon: 0.05,
  shared: 0.1,
  gated: 0.05,
  digipeated: 0.1,
};

/** A frame that wants to go out. airTimeMs: the frame alone, without TXDELAY and tail. */
export interface Offered {
  readonly id: string;
  /** Whose it is: a session, a program, the operator. */
  readonly owner: string;
  readonly sendClass: SendClass;
  readonly airTimeMs: number;
  /** Carries a call of ours, as source or as the digipeater that has just repeated it. */
  readonly identifies: boolean;
  /** After this time on the machine's clock it is of no use any more. */
  readonly expiresAtMs?: number | undefined;
}

/** Somebody has the link for a time: frames of others wait, acknowledgements aside. */
export interface Lease {
  readonly owner: string;
  readonly untilMs: number;
}

/** One key-down: who began it, how long it is, with TXDELAY and tail, and when it will have left the air. */
export interface Over {
  readonly owner: string;
  readonly lengthMs: number;
  readonly endsAtMs: number;
}

export interface WayOut {
  /** In the order in which they came. */
  readonly waiting: readonly Offered[];
  /** Owners, the one whose turn is longest ago first; who is not listed had none yet. */
  readonly turns: readonly string[];
  /** What each class has coming to it of its least share, ms of air time. */
  readonly owed: Readonly<Partial<Record<SendClass, number>>>;
  /** Our last one: on the air until endsAtMs, and a pause behind it. */
  readonly over: Over;
  readonly lease?: Lease;
  /** Since when something without a call of ours has been sent. */
  readonly unidentifiedSinceMs?: number;
}

const LONG_AGO: Over = { owner: '', lengthMs: 0, endsAtMs: -Infinity };
export const IDLE: WayOut = { waiting: [], turns: [], owed: {}, over: LONG_AGO };

export type WayOutEvent =
  | { readonly kind: 'offer'; readonly frame: Offered }
  /** What this owner has waiting, one frame, or all that waits (the lock was closed). */
  | { readonly kind: 'withdraw'; readonly owner: string }
  | { readonly kind: 'cancel'; readonly id: string }
  | { readonly kind: 'close' }
  /** Takes the link for so long, where nobody else has it; the same owner may lengthen it. */
  | { readonly kind: 'lease'; readonly owner: string; readonly ms: number }
  | { readonly kind: 'release'; readonly owner: string }
  | TimerEvent;

export const DROPS = ['expired', 'replaced', 'withdrawn', 'closed', 'too many waiting', 'too long'] as const;
export type Drop = (typeof DROPS)[number];

export type WayOutTimer = 'clear' | 'expiry' | 'lease' | 'identify';

export type WayOutEffect =
  /** These frames back to back; leftAfterMs: until the last of them has left the air. */
  | { readonly kind: 'hand'; readonly ids: readonly string[]; readonly leftAfterMs: number }
  | { readonly kind: 'drop'; readonly id: string; readonly why: Drop }
  /** Ten minutes of sending without a call of ours are over: one has to go out. */
  | { readonly kind: 'identify' }
  | TimerEffect<WayOutTimer>;

/** keyingMs: TXDELAY and tail, which one over has once. */
export interface WayOutContext extends Pick<Moment, 'atMs'> {
  readonly keyingMs: number;
}

/** No over is longer than this; a single frame that would be is never sent. */
export const LONGEST_OVER_MS = 30_000;
/** An over is filled with whatever waits up to here; above, only with what may lengthen it. */
export const USUAL_OVER_MS = 5000;
/** Between two overs of ours others may begin: a turn of the channel, as in `sessions/timers`. */
export const PAUSE_MS = 500;
/** Stations are to identify every ten minutes (common practice; local rules differ). */
export const IDENTIFY_WITHIN_MS = 600_000;
/** A repeated frame that is later than this meets copies that went ahead. */
export const DIGIPEATED_LATEST_MS = 5000;
/** Of one owner: a window of 127 frames and what is said besides. */
export const MOST_WAITING = 160;
/** Owners whose last turn is remembered. */
const TURNS_KEPT = 64;

type Outcome = Stepped<WayOut, WayOutEffect>;

export function step(state: WayOut, event: WayOutEvent, context: WayOutContext): Outcome {
  const [asked, effects] = take(state, event, context.atMs, context.keyingMs);
  const [timely, late] = drop(asked, 'expired', ({ expiresAtMs = Infinity }) => expiresAtMs <= context.atMs);
  const [next, sent] = send(timely, context);
  const timer = next.waiting === state.waiting ? [] : [nextExpiry(next, context.atMs)];
  return [next, [...effects, ...late, ...sent, ...timer]];
}

function take(state: WayOut, event: WayOutEvent, atMs: number, keyingMs: number): Outcome {
  switch (event.kind) {
    case 'offer':
      return offer(state, withExpiry(event.frame, atMs), keyingMs);
    case 'withdraw':
      return drop(state, 'withdrawn', ({ owner }) => owner === event.owner);
    case 'cancel':
      return drop(state, 'withdrawn', ({ id }) => id === event.id);
    case 'close':
      return drop(state, 'closed', () => true);
    case 'lease':
      return lease(state, event.owner, event.ms, atMs);
    case 'release':
      return holder(state, atMs) === event.owner ? released(state) : [state, []];
    case 'timer':
      return rang(state, event.timer);
  }
}

/** Who has the link to himself now. */
export function holder({ lease }: WayOut, atMs: number): string | undefined {
  return lease && lease.untilMs > atMs ? lease.owner : undefined;
}

function offer(state: WayOut, frame: Offered, keyingMs: number): Outcome {
  const refuse = (why: Drop): Outcome => [state, [{ kind: 'drop', id: frame.id, why }]];
  if (frame.airTimeMs + keyingMs > LONGEST_OVER_MS) return refuse('too long');
  if (state.waiting.filter(({ owner }) => owner === frame.owner).length >= MOST_WAITING)
    return refuse('too many waiting');
  // A beacon tells where we are now: an older one that still waits is of no use.
  const [kept, effects] =
    frame.sendClass === 'beacon'
      ? drop(state, 'replaced', ({ sendClass }) => sendClass === 'beacon')
      : ([state, []] as const);
  return [{ ...kept, waiting: [...kept.waiting, frame] }, effects];
}

function withExpiry(frame: Offered, atMs: number): Offered {
  if (frame.sendClass !== 'digipeated') return frame;
  return { ...frame, expiresAtMs: Math.min(frame.expiresAtMs ?? Infinity, atMs + DIGIPEATED_LATEST_MS) };
}

function drop(state: WayOut, why: Drop, isOut: (frame: Offered) => boolean): Outcome {
  const out = state.waiting.filter(isOut);
  if (out.length === 0) return [state, []];
  return [
    { ...state, waiting: state.waiting.filter((frame) => !out.includes(frame)) },
    out.map(({ id }) => ({ kind: 'drop', id, why })),
  ];
}

function lease(state: WayOut, owner: string, ms: number, atMs: number): Outcome {
  const now = holder(state, atMs);
  if (now !== undefined && now !== owner) return [state, []];
  return [{ ...state, lease: { owner, untilMs: atMs + ms } }, [start('lease', ms)]];
}

function released({ lease: _, ...state }: WayOut): Outcome {
  return [state, [stop('lease')]];
}

/** The end of an over, of a frame's time: what is to happen then is what happens at any event. */
function rang(state: WayOut, timer: string): Outcome {
  if (timer === 'lease') return released(state);
  if (timer !== 'identify' || state.unidentifiedSinceMs === undefined) return [state, []];
  const { unidentifiedSinceMs: _, ...rest } = state;
  return [rest, [{ kind: 'identify' }]];
}

function nextExpiry({ waiting }: WayOut, atMs: number): WayOutEffect {
  const first = Math.min(...waiting.map(({ expiresAtMs = Infinity }) => expiresAtMs));
  return first === Infinity ? stop('expiry') : start('expiry', first - atMs);
}

/** Behind the over that is on the air, or as a new one, once others have had their pause. */
function send(state: WayOut, { atMs, keyingMs }: WayOutContext): Outcome {
  const { over } = state;
  if (atMs < over.endsAtMs) return fill(state, over, 0, atMs);
  if (atMs < over.endsAtMs + PAUSE_MS) return [state, []];
  const first = choose(state, atMs, () => true);
  if (!first) return [state, []];
  const fresh = { owner: first.owner, lengthMs: keyingMs, endsAtMs: atMs + keyingMs };
  return fill(state, fresh, USUAL_OVER_MS, atMs, first);
}

/** Takes the first, where the over begins with one, and what fits behind it; others than its owner only up to that length. */
function fill(state: WayOut, begun: Over, othersUpToMs: number, atMs: number, first?: Offered): Outcome {
  const frames: Offered[] = [];
  let over = begun;
  let rest = state;
  const fits: Fits = (line, lines) => {
    const lengthMs = over.lengthMs + line.head.airTimeMs;
    return lengthMs <= (mayLengthen(rest, line, over, lines) ? LONGEST_OVER_MS : othersUpToMs);
  };
  for (let next = first ?? choose(rest, atMs, fits); next; next = choose(rest, atMs, fits)) {
    frames.push(next);
    rest = taken(rest, next);
    over = longer(over, next.airTimeMs);
  }
  if (frames.length === 0) return [state, []];
  const leftAfterMs = over.endsAtMs - atMs;
  const [identified, identification] = noteIdentity({ ...rest, over }, frames, atMs);
  const hand: WayOutEffect = { kind: 'hand', ids: frames.map(({ id }) => id), leftAfterMs };
  return [identified, [hand, ...identification, start('clear', leftAfterMs + PAUSE_MS)]];
}

/**
 * An acknowledgement may, and more of the owner who began it, as long as nobody waits for the next over who is more urgent,
 * is owed his share, or has the same right: of two sessions each sends its window whole, others take turns.
 */
function mayLengthen(state: WayOut, line: Line, { owner }: Over, lines: readonly Line[]): boolean {
  const { head, urgency } = line;
  if (head.sendClass === 'acknowledgement') return true;
  const isSession = head.sendClass === 'session';
  const givesWay = (other: Line): boolean =>
    other === line || (!isOwed(state, other) && other.urgency >= urgency + (isSession ? 0 : 1));
  return head.owner === owner && lines.every(givesWay);
}

const longer = ({ owner, lengthMs, endsAtMs }: Over, byMs: number): Over => ({
  owner,
  lengthMs: lengthMs + byMs,
  endsAtMs: endsAtMs + byMs,
});

type Fits = (line: Line, all: readonly Line[]) => boolean;

/** Whose first frame is next, of those that fit: a class that is owed its share, else the order. */
function choose(state: WayOut, atMs: number, fits: Fits): Offered | undefined {
  const all = linesOf(state, atMs);
  const heads = all.filter((line) => fits(line, all));
  const owed = heads.filter((line) => isOwed(state, line));
  return inOrder(state, owed) ?? inOrder(state, heads);
}

const isOwed = ({ owed }: WayOut, { head }: Line): boolean => (owed[head.sendClass] ?? 0) >= head.airTimeMs;

/** What one owner has waiting: its first frame, and the most urgent class among them. */
interface Line {
  readonly head: Offered;
  readonly urgency: number;
}

function linesOf(state: WayOut, atMs: number): Line[] {
  const leased = holder(state, atMs);
  const byOwner = new Map<string, Line>();
  for (const frame of state.waiting) {
    if (leased !== undefined && frame.owner !== leased && frame.sendClass !== 'acknowledgement') continue;
    const urgency = CLASSES.indexOf(frame.sendClass);
    const line = byOwner.get(frame.owner);
    byOwner.set(frame.owner, {
      head: line?.head ?? frame,
      urgency: Math.min(line?.urgency ?? urgency, urgency),
    });
  }
  return [...byOwner.values()];
}

/** The most urgent, and of equals the one whose turn is longest ago. */
function inOrder({ turns }: WayOut, heads: readonly Line[]): Offered | undefined {
  const turn = ({ head }: Line): number => turns.indexOf(head.owner);
  const isBefore = (a: Line, b: Line): boolean =>
    a.urgency < b.urgency || (a.urgency === b.urgency && turn(a) < turn(b));
  let best: Line | undefined;
  for (const line of heads) if (!best || isBefore(line, best)) best = line;
  return best?.head;
}

/** It leaves the waiting ones; its owner has had its turn, and every class that still waits is owed its share of that air time. */
function taken(state: WayOut, frame: Offered): WayOut {
  const waiting = state.waiting.filter((one) => one !== frame);
  const owed: Partial<Record<SendClass, number>> = {};
  for (const sendClass of new Set(waiting.map((one) => one.sendClass))) {
    const due = (state.owed[sendClass] ?? 0) + LEAST_SHARE[sendClass] * frame.airTimeMs;
    const left = sendClass === frame.sendClass ? due - frame.airTimeMs : due;
    owed[sendClass] = Math.min(LONGEST_OVER_MS, Math.max(0, left));
  }
  const turns = [...state.turns.filter((owner) => owner !== frame.owner), frame.owner].slice(-TURNS_KEPT);
  return { ...state, waiting, owed, turns };
}

function noteIdentity(state: WayOut, sent: readonly Offered[], atMs: number): Outcome {
  const { unidentifiedSinceMs, ...rest } = state;
  if (sent.some(({ identifies }) => identifies)) return [rest, [stop('identify')]];
  if (unidentifiedSinceMs !== undefined) return [state, []];
  return [{ ...state, unidentifiedSinceMs: atMs }, [start('identify', IDENTIFY_WITHIN_MS)]];
}
