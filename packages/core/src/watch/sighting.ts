import { wayTo, type Position } from '../geo/position.js';
import type { Watched } from './watched.js';
import { metresOff } from './leg.js';

/** A packet of one who is looked after. called: what they said to this desk. isEmergency: absent where the packet does not tell. */
export interface Seen {
  readonly atMs: number;
  readonly position?: Position;
  /** How far the position may be from the truth, where digits of it were left out. */
  readonly doubtM?: number;
  readonly called?: string;
  readonly isEmergency?: boolean;
}

/** What was heard of one so far. Times in ms since 1970 UTC. */
export interface Sighting {
  /** When packets came, oldest first; the last ones only. */
  readonly arrivals: readonly number[];
  readonly position?: Position;
  readonly positionAtMs?: number;
  /** Since when they are within `STANDS_WITHIN_M` of one place, and of which. */
  readonly stands?: { readonly place: Position; readonly sinceMs: number };
  /** How far off their leg the last position is; absent where nobody knows. */
  readonly offM?: number;
  /** Reached the finish; stays. */
  readonly arrivedAtMs?: number;
  /** The last word to this desk that nobody has acknowledged. */
  readonly called?: { readonly atMs: number; readonly text: string };
  /** The last packet that tells says that it is one. */
  readonly isEmergency?: boolean;
}

export const UNSEEN: Sighting = { arrivals: [] };

/** A receiver at rest wanders so far (common practice, no source). */
export const STANDS_WITHIN_M = 75;
/** As many as a time line shows. */
const MOST_ARRIVALS = 120;

/** What was known and one packet more. One that is older than the last only counts as an arrival. */
export function see(known: Sighting, watched: Watched, seen: Seen): Sighting {
  const last = known.arrivals.at(-1) ?? -Infinity;
  const arrivals = [...known.arrivals, seen.atMs].sort((a, b) => a - b).slice(-MOST_ARRIVALS);
  if (seen.atMs < last) return { ...known, arrivals };
  return {
    ...known,
    arrivals,
    ...placed(known, watched, seen),
    ...(seen.called === undefined ? {} : { called: { atMs: seen.atMs, text: seen.called } }),
    ...(seen.isEmergency === undefined ? {} : { isEmergency: seen.isEmergency }),
  };
}

function placed(known: Sighting, watched: Watched, { atMs, position, doubtM = 0 }: Seen): Partial<Sighting> {
  if (!position) return {};
  const within = STANDS_WITHIN_M + doubtM;
  const { stands } = known;
  const hasMoved = !stands || metresTo(stands.place, position) > within;
  return {
    position,
    positionAtMs: atMs,
    stands: hasMoved ? { place: position, sinceMs: atMs } : stands,
    ...judged(known, watched, { atMs, position, doubtM }),
  };
}

/** What a position says about the way: also when the way, and not the position, is new. */
export function judged(
  { arrivedAtMs }: Sighting,
  { leg, finish }: Watched,
  { atMs, position, doubtM = 0 }: { atMs: number; position: Position; doubtM?: number },
): Pick<Sighting, 'offM' | 'arrivedAtMs'> {
  const isThere = finish !== undefined && metresTo(finish.place, position) <= finish.radiusM;
  const arrived = arrivedAtMs ?? (isThere ? atMs : undefined);
  return {
    ...(leg ? { offM: Math.max(0, metresOff(leg, position) - doubtM) } : {}),
    ...(arrived === undefined ? {} : { arrivedAtMs: arrived }),
  };
}

const metresTo = (from: Position, to: Position): number => wayTo(from, to).distanceKm * 1000;
