import { OBSERVED, RUNGS, type Evidence, type Rung } from './evidence.js';

const MINUTE_MS = 60_000;
const HOUR_MS = 60 * MINUTE_MS;
const DAY_MS = 24 * HOUR_MS;

export type Purpose =
  | 'receive'
  | 'beacon'
  | 'messages'
  | 'map'
  | 'session'
  | 'mail'
  | 'peer mail'
  | 'sound mail';

const RECEIVE: readonly Rung[] = ['port open', 'TNC talks', 'level in the window', 'packet decoded'];
const BEACON: readonly Rung[] = [...RECEIVE, 'handed to the TNC', 'keyed', 'repeated', 'at a gateway'];
const SESSION: readonly Rung[] = [
  ...RECEIVE,
  'handed to the TNC',
  'keyed',
  'far station answered',
  'data both ways',
];

/** What a chain is for, and the rungs of each purpose, in order. */
export const PURPOSES: Readonly<Record<Purpose, { readonly name: string; readonly rungs: readonly Rung[] }>> =
  {
    receive: { name: 'receive only', rungs: RECEIVE },
    beacon: { name: 'position beacon', rungs: BEACON },
    messages: { name: 'APRS messages', rungs: [...BEACON, 'message acknowledged'] },
    map: { name: 'map for an event', rungs: RECEIVE },
    session: { name: 'packet session', rungs: SESSION },
    mail: {
      name: 'radio mail',
      rungs: [...SESSION, 'logged in to mail', 'mail sent', 'mail received', 'self-test answered'],
    },
    'peer mail': { name: 'peer-to-peer mail', rungs: [...SESSION, 'mail sent', 'mail received'] },
    'sound mail': {
      name: 'radio mail by sound modem',
      rungs: [
        'port open',
        'level in the window',
        'keyed',
        'far station answered',
        'mail sent',
        'mail received',
      ],
    },
  };

export const isPurpose = (text: unknown): text is Purpose =>
  typeof text === 'string' && Object.hasOwn(PURPOSES, text);

/** Whoever moves must be heard anew more often than a fixed station. */
export interface Situation {
  readonly isOpen: boolean;
  readonly isMoving: boolean;
  /** When the link was opened, ms since 1970: what was heard before says nothing of TNC and receiver now. */
  readonly openedAtMs?: number;
  /** The operator has a way over the internet open: an acknowledgement may have come by it. */
  readonly hasInternetWay?: boolean;
  /** What gates pass to the internet is seen here: whether a frame reached one can be told. */
  readonly seesInternet?: boolean;
  /** Another app, or none, is at the end: what happens there the operator sees and ticks. */
  readonly endsElsewhere?: boolean;
  /** Sound passes through a sound card, so that its level counts. */
  readonly isSound?: boolean;
}

/** The rungs of a purpose that can be lit on this chain. */
export function rungsOf(
  purpose: Purpose,
  { endsElsewhere = false, isSound = false, seesInternet = false }: Situation,
): readonly Rung[] {
  return PURPOSES[purpose].rungs.filter((rung) =>
    rung === 'level in the window'
      ? isSound
      : endsElsewhere || OBSERVED.includes(rung) || (rung === 'at a gateway' && seesInternet),
  );
}

/** How long evidence stands before it has faded; 0: it stands as long as the link is open. */
function standsMs(rung: Rung, { isMoving }: Situation): number {
  switch (rung) {
    case 'port open':
      return 0;
    case 'TNC talks':
    case 'packet decoded':
      return 10 * MINUTE_MS;
    case 'handed to the TNC':
      return ECHO_DOUBT_MS;
    case 'keyed':
      return HOUR_MS;
    case 'repeated':
    case 'at a gateway':
      return isMoving ? 30 * MINUTE_MS : DAY_MS;
    case 'level in the window':
    case 'message acknowledged':
    case 'far station answered':
    case 'data both ways':
      return DAY_MS;
    case 'logged in to mail':
    case 'mail sent':
    case 'mail received':
      return 7 * DAY_MS;
    case 'self-test answered':
      return 30 * DAY_MS;
  }
}

/** Handed over and no echo for this long: that it was keyed is doubtful. */
export const ECHO_DOUBT_MS = 30_000;

/**
 * What a rung presupposes on the same way, and so proves when it is lit: an echo was handed over, keyed and decoded. What
 * follows from that is proved too.
 */
const PRESUPPOSES: Partial<Record<Rung, readonly Rung[]>> = {
  'packet decoded': ['TNC talks'],
  keyed: ['handed to the TNC', 'packet decoded'],
  repeated: ['keyed'],
  'at a gateway': ['repeated'],
  'message acknowledged': ['keyed'],
  'far station answered': ['keyed'],
  'data both ways': ['far station answered'],
  'logged in to mail': ['data both ways'],
  // Between stations mail goes without a login.
  'mail sent': ['data both ways'],
  'mail received': ['data both ways'],
  'self-test answered': ['logged in to mail', 'mail sent', 'mail received'],
};

/** The rung itself and all that it presupposes, by however many steps. */
const PROVES: ReadonlyMap<Rung, ReadonlySet<Rung>> = new Map(
  RUNGS.map((rung) => [rung, new Set(closure(rung))]),
);

function closure(rung: Rung): Rung[] {
  return [rung, ...(PRESUPPOSES[rung] ?? []).flatMap(closure)];
}

/** Whether that evidence speaks for this rung at all. */
function speaksFor({ rung: seen, kind, atMs }: Evidence, rung: Rung, situation: Situation): boolean {
  if (kind === 'spoilt' || !PROVES.get(seen)?.has(rung)) return false;
  if (seen === rung) return !isOfBefore(rung, atMs, situation);
  // The transmit lamp says nothing about hearing; and what came by the internet says nothing about radio.
  if (kind === 'tick' && seen === 'keyed') return false;
  if (seen === 'message acknowledged' && situation.hasInternetWay) return false;
  return !isOfBefore(rung, atMs, situation);
}

/** TNC and receiver are proved by what came since the link was opened. */
function isOfBefore(rung: Rung, atMs: number, { openedAtMs, endsElsewhere }: Situation): boolean {
  const isOfNow = rung === 'TNC talks' || rung === 'packet decoded';
  return isOfNow && !endsElsewhere && openedAtMs !== undefined && atMs < openedAtMs;
}

/**
 * lit: by evidence that still stands · faded: it was, and the evidence is old · doubtful: something speaks against it ·
 * dark: nothing has lit it. freshness: 1 when new, 0 when just faded.
 */
export interface Camp {
  readonly rung: Rung;
  readonly state: 'lit' | 'faded' | 'doubtful' | 'dark';
  readonly evidence?: Evidence;
  readonly freshness: number;
}

/** The climb of one link for one purpose: evidence in, camps out, lowest first. */
export function climb(
  purpose: Purpose,
  evidence: readonly Evidence[],
  situation: Situation,
  nowMs: number,
): readonly Camp[] {
  return rungsOf(purpose, situation).map((rung) => camp(rung, evidence, situation, nowMs));
}

function camp(rung: Rung, evidence: readonly Evidence[], situation: Situation, nowMs: number): Camp {
  if (rung === 'keyed' && isKeyingDoubtful(evidence, situation, nowMs))
    return { rung, state: 'doubtful', freshness: 0 };
  const spoilt = evidence.findLast((one) => one.kind === 'spoilt' && one.rung === rung && one.atMs <= nowMs);
  const candidates = evidence.filter(
    (one) => one.atMs <= nowMs && one.atMs > (spoilt?.atMs ?? -Infinity) && speaksFor(one, rung, situation),
  );
  if (spoilt && candidates.length === 0) return { rung, state: 'doubtful', evidence: spoilt, freshness: 0 };
  const best = candidates.reduce<Evidence | undefined>(
    (kept, one) =>
      freshness(one, rung, situation, nowMs) >= (kept ? freshness(kept, rung, situation, nowMs) : 0)
        ? one
        : kept,
    undefined,
  );
  const newest = best ?? candidates.at(-1);
  if (!newest) return { rung, state: 'dark', freshness: 0 };
  const fresh = freshness(newest, rung, situation, nowMs);
  return { rung, state: fresh > 0 ? 'lit' : 'faded', evidence: newest, freshness: fresh };
}

/** Evidence of a higher rung stands for a lower one as long as that one's own evidence would. */
function freshness(evidence: Evidence, rung: Rung, situation: Situation, nowMs: number): number {
  // An attempt that was proved is over when its keying is.
  const isProvedAttempt = rung === 'handed to the TNC' && evidence.rung !== rung;
  const limitMs = standsMs(isProvedAttempt ? 'keyed' : rung, situation);
  if (limitMs === 0) return situation.isOpen || situation.endsElsewhere ? 1 : 0;
  return Math.max(0, 1 - (nowMs - evidence.atMs) / limitMs);
}

/** Handed over, and nothing since that presupposes keying. */
function isKeyingDoubtful(evidence: readonly Evidence[], situation: Situation, nowMs: number): boolean {
  const last = (fits: (one: Evidence) => boolean): number =>
    Math.max(-Infinity, ...evidence.filter((one) => one.atMs <= nowMs && fits(one)).map(({ atMs }) => atMs));
  const handedAtMs = last(({ rung }) => rung === 'handed to the TNC');
  const provedAtMs = last((one) => speaksFor(one, 'keyed', situation));
  return provedAtMs < handedAtMs && nowMs - handedAtMs >= ECHO_DOUBT_MS;
}

/** The first rung from below that does not stand: what to prove next. Undefined at the top. */
export function nextRung(camps: readonly Camp[]): Camp | undefined {
  return camps.find(({ state }) => state !== 'lit');
}
