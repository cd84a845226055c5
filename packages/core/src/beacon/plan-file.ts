import { malformed, type Malformed } from '../bits/malformed.js';
import type { BeaconPlan } from './plan.js';

/** Bounds of each figure of a plan: from, to, and what it is called. */
const FIGURES: Readonly<
  Record<BeaconPlan['kind'], Readonly<Record<string, readonly [number, number, string]>>>
> = {
  once: {},
  interval: { everyMs: [15_000, 86_400_000, 'an interval from 15 s to a day'] },
  decaying: {
    movingEveryMs: [15_000, 3_600_000, 'an interval on the move from 15 s to an hour'],
    longestMs: [15_000, 86_400_000, 'a longest interval from 15 s to a day'],
  },
  distance: {
    everyM: [20, 100_000, 'a distance from 20 m to 100 km'],
    longestMs: [15_000, 86_400_000, 'a longest interval from 15 s to a day'],
  },
  'speed-and-turn': {
    lowSpeedMps: [0, 100, 'a low speed from 0 to 100 m/s'],
    slowEveryMs: [15_000, 86_400_000, 'a slow interval from 15 s to a day'],
    highSpeedMps: [0.1, 400, 'a high speed from 0.1 to 400 m/s'],
    fastEveryMs: [15_000, 3_600_000, 'a fast interval from 15 s to an hour'],
    leastTurnDeg: [5, 180, 'a least turn from 5 to 180°'],
    turnSlope: [0, 5000, 'a turn slope from 0 to 5000 degree·mph'],
    leastTurnGapMs: [15_000, 3_600_000, 'a gap between turns from 15 s to an hour'],
  },
};

/** A plan as it comes from outside; what it has besides is dropped. */
export function parsePlan(value: unknown): BeaconPlan | Malformed {
  if (typeof value !== 'object' || value === null) return malformed('choose a plan');
  const from = value as Readonly<Record<string, unknown>>;
  const kind = from.kind as BeaconPlan['kind'];
  if (typeof kind !== 'string' || !Object.hasOwn(FIGURES, kind)) return malformed('choose a plan');
  const plan: Record<string, unknown> = { kind };
  for (const [name, [least, most, words]] of Object.entries(FIGURES[kind])) {
    const figure = from[name];
    if (typeof figure !== 'number' || !(figure >= least && figure <= most)) return malformed(`give ${words}`);
    plan[name] = figure;
  }
  const { lowSpeedMps, highSpeedMps } = plan as { lowSpeedMps?: number; highSpeedMps?: number };
  if (lowSpeedMps !== undefined && highSpeedMps !== undefined && highSpeedMps <= lowSpeedMps)
    return malformed('the high speed must be above the low one');
  return plan as unknown as BeaconPlan;
}
