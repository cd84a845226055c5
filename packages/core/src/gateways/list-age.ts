import type { Facility } from './facility.js';

/** Whether what lists told is still to be trusted. */
export interface ListAge {
  readonly name: string;
  readonly facilities: number;
  readonly atMs: number;
  readonly days: number;
  readonly isOld: boolean;
  /** In HF lists the prediction ages first. */
  readonly hasPrediction: boolean;
  /** Of asking for it anew by radio. */
  readonly refreshMinutes: number;
}

/** Antennas and frequencies last about so long; predictions of the HF path only to the next month (common practice, no source). */
export const OLD_DAYS = 180;
export const OLD_PREDICTION_DAYS = 30;
/** One line of a list, compressed (common practice, no source). */
const OCTETS_A_LINE = 32;
/** What a packet session at 1200 Bd carries on a channel with others (common practice, no source). */
export const USUAL_OCTETS_PER_SECOND = 40;
const DAY_MS = 86_400_000;

/** The lists from which the directory has facts, the newest first; octetsPerSecond: of a session from here. */
export function listAges(
  directory: readonly Facility[],
  { nowMs, octetsPerSecond }: { readonly nowMs: number; readonly octetsPerSecond: number },
): ListAge[] {
  const lists = new Map<string, { facilities: Set<Facility>; atMs: number; hasPrediction: boolean }>();
  for (const facility of directory)
    for (const [fact, source] of Object.entries(facility.sources)) {
      if (source.by !== 'file' && source.by !== 'mail') continue;
      const known = lists.get(source.name) ?? {
        facilities: new Set(),
        atMs: source.atMs,
        hasPrediction: false,
      };
      known.facilities.add(facility);
      known.atMs = Math.max(known.atMs, source.atMs);
      known.hasPrediction ||= fact === 'reliabilityPercent' || fact === 'qualityPercent';
      lists.set(source.name, known);
    }
  return [...lists]
    .map(([name, { facilities, atMs, hasPrediction }]) => {
      const days = Math.max(0, (nowMs - atMs) / DAY_MS);
      return {
        name,
        facilities: facilities.size,
        atMs,
        days,
        isOld: days > (hasPrediction ? OLD_PREDICTION_DAYS : OLD_DAYS),
        hasPrediction,
        refreshMinutes: (facilities.size * OCTETS_A_LINE) / octetsPerSecond / 60,
      };
    })
    .sort((a, b) => b.atMs - a.atMs || (a.name < b.name ? -1 : 1));
}
