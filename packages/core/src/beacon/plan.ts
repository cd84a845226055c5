import { wayTo, type Position } from '../geo/position.js';
import { MPS_PER_MPH } from '../units/units.js';

/** Where the station is at a time, in ms of a clock that only goes forward. */
export interface Fix {
  readonly atMs: number;
  readonly position: Position;
  readonly courseDeg?: number;
  readonly speedMps?: number;
}

/**
 * When beacons are due.
 * speed-and-turn: the published algorithm: below the low speed the slow interval; above the high speed the fast one; between
 * them fast interval · high speed / speed; and at a turn of more than leastTurnDeg + turnSlope / speed (degree · mph).
 * decaying: at movingEveryMs while it moves; at a stop each interval is twice the last, up to longestMs.
 */
export type BeaconPlan =
  | { readonly kind: 'interval'; readonly everyMs: number }
  | {
      readonly kind: 'speed-and-turn';
      readonly lowSpeedMps: number;
      readonly slowEveryMs: number;
      readonly highSpeedMps: number;
      readonly fastEveryMs: number;
      readonly leastTurnDeg: number;
      readonly turnSlope: number;
      readonly leastTurnGapMs: number;
    }
  | { readonly kind: 'decaying'; readonly movingEveryMs: number; readonly longestMs: number }
  | { readonly kind: 'distance'; readonly everyM: number; readonly longestMs: number }
  | { readonly kind: 'once' };

/** What was sent last, and how long the station has stood since. */
export interface LastBeacon {
  readonly fix: Fix;
  /** How many beacons were sent since it stopped. */
  readonly standing: number;
}

/** Slower than this is standing: positions of satellites wander (common practice, no source). */
export const STANDS_BELOW_MPS = 0.5;

export const isStanding = ({ speedMps = 0 }: Fix): boolean => speedMps < STANDS_BELOW_MPS;

/** When the next one is due if things go on as they are now, in ms of the fix's clock; Infinity for never. */
export function dueAtMs(plan: BeaconPlan, last: LastBeacon | undefined, now: Fix): number {
  if (!last) return now.atMs;
  const sinceMs = last.fix.atMs;
  switch (plan.kind) {
    case 'once':
      return Infinity;
    case 'interval':
      return sinceMs + plan.everyMs;
    case 'decaying': {
      if (!isStanding(now)) return sinceMs + plan.movingEveryMs;
      return sinceMs + Math.min(plan.longestMs, plan.movingEveryMs * 2 ** last.standing);
    }
    case 'distance': {
      const gone = wayTo(last.fix.position, now.position).distanceKm * 1000;
      if (gone >= plan.everyM) return now.atMs;
      return sinceMs + plan.longestMs;
    }
    case 'speed-and-turn':
      return isTurn(plan, last.fix, now)
        ? Math.max(now.atMs, sinceMs + plan.leastTurnGapMs)
        : sinceMs + rateMs(plan, now);
  }
}

type SpeedAndTurn = Extract<BeaconPlan, { kind: 'speed-and-turn' }>;

function rateMs(
  { lowSpeedMps, slowEveryMs, highSpeedMps, fastEveryMs }: SpeedAndTurn,
  { speedMps = 0 }: Fix,
): number {
  if (speedMps <= lowSpeedMps) return slowEveryMs;
  if (speedMps >= highSpeedMps) return fastEveryMs;
  return Math.min(slowEveryMs, (fastEveryMs * highSpeedMps) / speedMps);
}

function isTurn(plan: SpeedAndTurn, before: Fix, { courseDeg, speedMps = 0 }: Fix): boolean {
  if (courseDeg === undefined || before.courseDeg === undefined || speedMps <= plan.lowSpeedMps) return false;
  const turned = Math.abs(((courseDeg - before.courseDeg + 540) % 360) - 180);
  return turned > plan.leastTurnDeg + plan.turnSlope / (speedMps / MPS_PER_MPH);
}

/** 50 km/h: by which a distance is reckoned as a time. */
const STEADY_MPS = 50 / 3.6;

/** How often at most on a steady course: by which its share of the channel is reckoned. Infinity for once. */
export function shortestEveryMs(plan: BeaconPlan): number {
  switch (plan.kind) {
    case 'once':
      return Infinity;
    case 'interval':
      return plan.everyMs;
    case 'decaying':
      return plan.movingEveryMs;
    case 'distance':
      return Math.min(plan.longestMs, (plan.everyM / STEADY_MPS) * 1000);
    case 'speed-and-turn':
      return plan.fastEveryMs;
  }
}

/** After one was sent at that fix. */
export function noteSent(last: LastBeacon | undefined, fix: Fix): LastBeacon {
  return { fix, standing: isStanding(fix) ? (last?.standing ?? 0) + 1 : 0 };
}

const MINUTE_MS = 60_000;

/** Plans to begin with. */
export const USUAL_PLANS = {
  interval: { kind: 'interval', everyMs: 5 * MINUTE_MS },
  // Usual figures for a car: 5 and 60 mph, 30 min and 3 min, 28°, 255 degree·mph, 30 s (from memory).
  'speed-and-turn': {
    kind: 'speed-and-turn',
    lowSpeedMps: 5 * MPS_PER_MPH,
    slowEveryMs: 30 * MINUTE_MS,
    highSpeedMps: 60 * MPS_PER_MPH,
    fastEveryMs: 3 * MINUTE_MS,
    leastTurnDeg: 28,
    turnSlope: 255,
    leastTurnGapMs: 30_000,
  },
  decaying: { kind: 'decaying', movingEveryMs: 2 * MINUTE_MS, longestMs: 30 * MINUTE_MS },
  distance: { kind: 'distance', everyM: 1000, longestMs: 30 * MINUTE_MS },
  once: { kind: 'once' },
} as const satisfies Readonly<Record<BeaconPlan['kind'], BeaconPlan>>;
