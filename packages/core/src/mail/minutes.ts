import { MOST_IN_BLOCK } from './proposal.js';

/**
 * How fast mail goes by one way, and how that is known. setUpMs: from the call to the first proposal.
 */
export interface Pace {
  readonly octetsPerSecond: number;
  readonly setUpMs: number;
  readonly from: 'own sessions' | 'reckoning';
  /** Sessions that it is known by. */
  readonly sessions: number;
}

/** One session by that way, as it was. */
export interface PastSession {
  /** Of both directions, containers and lines alike. */
  readonly octets: number;
  readonly setUpMs: number;
  /** From the first proposal to the end. */
  readonly exchangeMs: number;
}

/** Below that a session says more about waiting than about carrying. */
const TELLING_OCTETS = 300;
/** The last ones tell most about now. */
const SESSIONS_LOOKED_AT = 9;

/** By own sessions, newest first, where one of them carried enough; else as it was reckoned. */
export function paceOf(past: readonly PastSession[], reckoned: Omit<Pace, 'from' | 'sessions'>): Pace {
  const telling = past
    .filter(({ octets, exchangeMs }) => octets >= TELLING_OCTETS && exchangeMs > 0)
    .slice(0, SESSIONS_LOOKED_AT);
  if (telling.length === 0) return { ...reckoned, from: 'reckoning', sessions: 0 };
  return {
    octetsPerSecond: median(telling.map(({ octets, exchangeMs }) => (1000 * octets) / exchangeMs)),
    setUpMs: median(telling.map(({ setUpMs }) => setUpMs)),
    from: 'own sessions',
    sessions: telling.length,
  };
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length / 2;
  return ((sorted[Math.ceil(middle) - 1] as number) + (sorted[Math.floor(middle)] as number)) / 2;
}

/** Octets on the way of one message: its container in blocks of 250, title, proposal and its answer. */
export const wireOctets = (packedOctets: number, title: string): number =>
  packedOctets + 2 * Math.ceil(packedOctets / 250) + Math.min(80, title.length) + 8 + 34;

/** SIDs, login, prompt, and for each block its closing and the turn. */
export const sessionOctets = (messages: number): number => 160 + 12 * Math.ceil(messages / MOST_IN_BLOCK);

/** ms that so many octets take, without the set-up. */
export const carriedMs = (octets: number, { octetsPerSecond }: Pace): number =>
  (1000 * octets) / octetsPerSecond;

/** All of a session, from the call to the good-bye. */
export const sessionMs = (
  messages: readonly { readonly packedOctets: number; readonly subject: string }[],
  pace: Pace,
): number =>
  pace.setUpMs +
  carriedMs(
    messages.reduce(
      (sum, one) => sum + wireOctets(one.packedOctets, one.subject),
      sessionOctets(messages.length),
    ),
    pace,
  );
