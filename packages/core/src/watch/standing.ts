import type { Sighting } from './sighting.js';
import type { Watched } from './watched.js';

/** What asks for somebody's attention, the most urgent first. */
export const NEEDS = ['emergency', 'called', 'overdue', 'late', 'off', 'still'] as const;
export type Need = (typeof NEEDS)[number];

/** How one stands. `waiting`: a packet is missing, one too few for an alarm; `arrived`: at the finish; `unheard`: not yet heard. */
export type Fare = Need | 'unheard' | 'waiting' | 'fine' | 'arrived';
export const FARES: readonly Fare[] = [...NEEDS, 'unheard', 'waiting', 'fine', 'arrived'];

export interface Standing {
  /** What comes first of all that holds. */
  readonly fare: Fare;
  readonly needs: readonly Need[];
  /** The last packet, or since when the watch waits for the first. */
  readonly sinceMs: number;
  /** When the next packet is expected, and from when on their silence is an alarm. */
  readonly expectedAtMs: number;
  readonly overdueAtMs: number;
}

/** One lost packet is the air's; the second in a row is a question. */
const OVERDUE_AFTER = 2;
/** A busy channel holds a packet back. */
export const GRACE_MS = 15_000;
/** Back on the leg is nearer than this share of what counts as off, so that nobody is off and on again at its edge. */
export const BACK_WITHIN = 0.8;

/**
 * How one stands at a moment (ms since 1970), from what was heard since the watch began. wasOff: off the leg at the last look.
 */
export function standingOf(
  watched: Watched,
  sighting: Sighting,
  { nowMs, begunMs, wasOff = false }: { nowMs: number; begunMs: number; wasOff?: boolean },
): Standing {
  const lastMs = sighting.arrivals.at(-1);
  const sinceMs = lastMs ?? begunMs;
  const expectedAtMs = sinceMs + watched.everyMs;
  const overdueAtMs = sinceMs + OVERDUE_AFTER * watched.everyMs + GRACE_MS;
  const hasArrived = sighting.arrivedAtMs !== undefined;
  const holds: Record<Need, boolean> = {
    emergency: sighting.isEmergency === true,
    called: sighting.called !== undefined,
    overdue: !hasArrived && nowMs >= overdueAtMs,
    late: !hasArrived && watched.finish?.dueAtMs !== undefined && nowMs >= watched.finish.dueAtMs,
    off: !hasArrived && isOff(watched, sighting, wasOff),
    still: !hasArrived && nowMs >= stillAtMs(watched, sighting),
  };
  const needs = NEEDS.filter((need) => holds[need]);
  const quiet: Fare = hasArrived
    ? 'arrived'
    : lastMs === undefined
      ? 'unheard'
      : nowMs >= expectedAtMs + GRACE_MS
        ? 'waiting'
        : 'fine';
  return { fare: needs[0] ?? quiet, needs, sinceMs, expectedAtMs, overdueAtMs };
}

function isOff({ leg, offM: most }: Watched, { offM }: Sighting, wasOff: boolean): boolean {
  return leg !== undefined && offM !== undefined && offM > (wasOff ? BACK_WITHIN * most : most);
}

function stillAtMs({ stillMs }: Watched, { stands }: Sighting): number {
  return stillMs === undefined || !stands ? Infinity : stands.sinceMs + stillMs;
}

/** The next moment at which time alone changes how one stands, ms since 1970; Infinity: never. */
export function nextLookMs(
  watched: Watched,
  sighting: Sighting,
  { nowMs, begunMs }: { nowMs: number; begunMs: number },
): number {
  const { expectedAtMs, overdueAtMs } = standingOf(watched, sighting, { nowMs, begunMs });
  const turns = [
    expectedAtMs + GRACE_MS,
    overdueAtMs,
    watched.finish?.dueAtMs ?? Infinity,
    stillAtMs(watched, sighting),
  ];
  return Math.min(...turns.filter((atMs) => atMs > nowMs));
}
