import { wayTo, type Position } from '../geo/position.js';
import type { Attempt } from './rank.js';

/** How often it answered in one part of the day, of the year, or of the distance. */
export interface Success {
  readonly part: string;
  readonly tries: number;
  readonly answers: number;
}

const HOURS_A_PART = 4;
/** Seasons as of the northern half of the earth; the southern has the other ones. */
const SEASONS = ['winter', 'spring', 'summer', 'autumn'] as const;
/** Upper ends, km; beyond the last, everything else. On HF what matters is the skip, on VHF the hill: both show in these steps. */
const DISTANCES_KM = [25, 100, 300, 1000, 3000] as const;

/** By four hours of the day, of all attempts; parts without any are left out. */
export function byHour(attempts: readonly Attempt[]): Success[] {
  return tally(attempts, ({ hour }) => {
    const from = Math.floor(hour / HOURS_A_PART) * HOURS_A_PART;
    return `${two(from)}–${two(from + HOURS_A_PART)}`;
  });
}

/** By season, where the one who called was. */
export function bySeason(attempts: readonly Attempt[], here: Position): Success[] {
  return tally(attempts, ({ atMs, from = here }) => {
    const month = new Date(atMs).getUTCMonth();
    // December begins the first; half a year later on the southern half.
    const season = Math.floor(((month + 1) % 12) / 3) + (from.latitudeDeg < 0 ? 2 : 0);
    return SEASONS[season % SEASONS.length] as string;
  });
}

/** By how far the called were from whoever called; attempts of which either place is not known are left out. */
export function byDistance(
  attempts: readonly Attempt[],
  placeOf: (call: string) => Position | undefined,
): Success[] {
  const known = attempts.filter(({ call, from }) => from !== undefined && placeOf(call) !== undefined);
  const partOf = ({ call, from }: Attempt): string => {
    const { distanceKm } = wayTo(from as Position, placeOf(call) as Position);
    const end = DISTANCES_KM.findIndex((km) => distanceKm < km);
    if (end < 0) return `over ${DISTANCES_KM.at(-1)} km`;
    return end === 0 ? `under ${DISTANCES_KM[0]} km` : `${DISTANCES_KM[end - 1]}–${DISTANCES_KM[end]} km`;
  };
  const order = ['under', ...DISTANCES_KM.map(String), 'over'];
  return tally(known, partOf).sort((a, b) => placeIn(order, a.part) - placeIn(order, b.part));
}

const placeIn = (order: readonly string[], part: string): number =>
  order.indexOf(part.split(/[ –]/)[0] as string);

const two = (hour: number): string => String(hour).padStart(2, '0');

function tally(attempts: readonly Attempt[], partOf: (attempt: Attempt) => string): Success[] {
  const parts = new Map<string, { tries: number; answers: number }>();
  for (const attempt of attempts) {
    const part = partOf(attempt);
    const known = parts.get(part) ?? { tries: 0, answers: 0 };
    parts.set(part, { tries: known.tries + 1, answers: known.answers + (attempt.answered ? 1 : 0) });
  }
  return [...parts]
    .map(([part, counts]) => ({ part, ...counts }))
    .sort((a, b) => (a.part < b.part ? -1 : a.part > b.part ? 1 : 0));
}
