import type { Position } from '../geo/position.js';
import type { TrackFix } from '../tracks/track.js';
import { dueAtMs, noteSent, type BeaconPlan, type Fix, type LastBeacon } from './plan.js';

/** What a plan makes of a track: where beacons fall, and how far the drawn track lies from the true one. */
export interface TrackTrial {
  readonly beacons: readonly Fix[];
  readonly hours: number;
  readonly perHour: number;
  readonly greatestErrorM: number;
  readonly rmsErrorM: number;
  /** The error at each sample, for drawing, m; at most so many as are drawn. */
  readonly errors: readonly { readonly atMs: number; readonly errorM: number }[];
}

/** A day is looked at every two seconds; a longer track in as many steps. */
const MOST_STEPS = 43_200;
const LEAST_STEP_MS = 1000;
/** A track without times is walked at this speed (a brisk walk). */
const ASSUMED_MPS = 1.4;
const MOST_DRAWN = 600;
const KM_PER_DEGREE = 111.195;

/** Times from 0 on; a file without times is walked through. Points that go back in time are left out. */
export function timedTrack(
  points: readonly TrackFix[],
): readonly { readonly atMs: number; readonly position: Position }[] {
  const hasTimes = points.length > 1 && points.every(({ atMs }) => atMs !== undefined);
  const timed: { atMs: number; position: Position }[] = [];
  let gone = 0;
  for (const { latitudeDeg, longitudeDeg, atMs } of points) {
    const position = { latitudeDeg, longitudeDeg };
    const last = timed.at(-1);
    if (last) gone += flatM(last.position, position);
    const time = hasTimes ? (atMs as number) - (points[0]?.atMs as number) : (gone / ASSUMED_MPS) * 1000;
    if (!last || time > last.atMs) timed.push({ atMs: time, position });
  }
  return timed;
}

/** Plays the track through a plan. Throws RangeError for a track of less than two points. */
export function tryPlan(
  track: readonly { readonly atMs: number; readonly position: Position }[],
  plan: BeaconPlan,
  leastGapMs = 0,
): TrackTrial {
  if (track.length < 2) throw new RangeError('a track has two points at least');
  return play(sampled(track), plan, leastGapMs);
}

function play(samples: readonly Fix[], plan: BeaconPlan, leastGapMs: number): TrackTrial {
  const beacons: Fix[] = [];
  let last: LastBeacon | undefined;
  for (const fix of samples) {
    const due = Math.max(dueAtMs(plan, last, fix), last ? last.fix.atMs + leastGapMs : 0);
    if (due > fix.atMs) continue;
    last = noteSent(last, fix);
    beacons.push(fix);
  }
  return judged(samples, beacons);
}

function judged(samples: readonly Fix[], beacons: readonly Fix[]): TrackTrial {
  let [greatest, squares, next] = [0, 0, 0];
  const errors: { atMs: number; errorM: number }[] = [];
  const every = Math.max(1, Math.ceil(samples.length / MOST_DRAWN));
  for (const [i, sample] of samples.entries()) {
    while (next < beacons.length && (beacons[next] as Fix).atMs <= sample.atMs) next++;
    const before = beacons[Math.max(0, next - 1)] as Fix;
    // Who looks at the map sees the last beacon until the next one comes; the line is drawn between them.
    const errorM = fromLineM(sample.position, before.position, (beacons[next] ?? before).position);
    greatest = Math.max(greatest, errorM);
    squares += errorM ** 2;
    if (i % every === 0) errors.push({ atMs: sample.atMs, errorM });
  }
  const hours = (samples.at(-1)?.atMs as number) / 3_600_000;
  return {
    beacons,
    hours,
    perHour: beacons.length / Math.max(hours, 1 / 60),
    greatestErrorM: greatest,
    rmsErrorM: Math.sqrt(squares / samples.length),
    errors,
  };
}

/** The track at even steps, with course and speed. */
function sampled(track: readonly { readonly atMs: number; readonly position: Position }[]): Fix[] {
  const endMs = track.at(-1)?.atMs as number;
  const stepMs = Math.max(LEAST_STEP_MS, endMs / MOST_STEPS);
  const fixes: Fix[] = [];
  let leg = 1;
  for (let atMs = 0; atMs <= endMs; atMs += stepMs) {
    while (leg < track.length - 1 && (track[leg]?.atMs as number) < atMs) leg++;
    const [from, to] = [track[leg - 1], track[leg]] as [(typeof track)[number], (typeof track)[number]];
    const part = Math.min(1, Math.max(0, (atMs - from.atMs) / (to.atMs - from.atMs)));
    const position = {
      latitudeDeg: from.position.latitudeDeg + (to.position.latitudeDeg - from.position.latitudeDeg) * part,
      longitudeDeg:
        from.position.longitudeDeg + (to.position.longitudeDeg - from.position.longitudeDeg) * part,
    };
    const metres = flatM(from.position, to.position);
    const speedMps = metres / ((to.atMs - from.atMs) / 1000);
    fixes.push({
      atMs,
      position,
      speedMps,
      ...(metres > 1 ? { courseDeg: courseOf(from.position, to.position) } : {}),
    });
  }
  return fixes;
}

/** On the flat sheet: a degree more or less is no turn. */
function courseOf(from: Position, to: Position): number {
  const [east, north] = flat(from, to);
  return ((Math.atan2(east, north) * 180) / Math.PI + 360) % 360;
}

/** On a flat sheet, which is exact enough between two beacons, m. */
function flat(from: Position, to: Position): readonly [number, number] {
  const cos = Math.cos((from.latitudeDeg * Math.PI) / 180);
  const east = (((to.longitudeDeg - from.longitudeDeg + 540) % 360) - 180) * cos;
  return [east * KM_PER_DEGREE * 1000, (to.latitudeDeg - from.latitudeDeg) * KM_PER_DEGREE * 1000];
}

const flatM = (from: Position, to: Position): number => Math.hypot(...flat(from, to));

/** From a place to the nearest of a line between two others, m. */
function fromLineM(place: Position, a: Position, b: Position): number {
  const [bx, by] = flat(a, b);
  const [x, y] = flat(a, place);
  const length = bx * bx + by * by;
  const part = length === 0 ? 0 : Math.min(1, Math.max(0, (x * bx + y * by) / length));
  return Math.hypot(x - part * bx, y - part * by);
}

/** What is wanted of a plan: an error that is not passed, or a number of beacons an hour that is not. */
export type Wanted = { readonly errorM: number } | { readonly perHour: number };

const MINUTE_MS = 60_000;
const INTERVALS_MS = [
  15_000,
  30_000,
  60_000,
  90_000,
  2 * MINUTE_MS,
  3 * MINUTE_MS,
  5 * MINUTE_MS,
  10 * MINUTE_MS,
  20 * MINUTE_MS,
];
const TURNS_DEG = [10, 15, 20, 28, 40];
const SLOPES = [60, 255, 500];
const DISTANCES_M = [100, 200, 500, 1000, 2000];

/** The same plan with other figures: of those that keep what is wanted, the one with the fewest beacons, or the least error. */
export function findFigures(
  track: readonly { readonly atMs: number; readonly position: Position }[],
  plan: BeaconPlan,
  wanted: Wanted,
  leastGapMs = 0,
): { readonly plan: BeaconPlan; readonly trial: TrackTrial } | undefined {
  const samples = sampled(track);
  const tried = variantsOf(plan).map((one) => ({ plan: one, trial: play(samples, one, leastGapMs) }));
  const kept = tried.filter(({ trial }) =>
    'errorM' in wanted ? trial.greatestErrorM <= wanted.errorM : trial.perHour <= wanted.perHour,
  );
  const price = ({ trial }: (typeof tried)[number]): number =>
    'errorM' in wanted ? trial.beacons.length : trial.greatestErrorM;
  return kept.sort((a, b) => price(a) - price(b))[0];
}

function variantsOf(plan: BeaconPlan): BeaconPlan[] {
  switch (plan.kind) {
    case 'once':
      return [plan];
    case 'interval':
      return INTERVALS_MS.map((everyMs) => ({ ...plan, everyMs }));
    case 'decaying':
      return INTERVALS_MS.map((movingEveryMs) => ({ ...plan, movingEveryMs }));
    case 'distance':
      return DISTANCES_M.map((everyM) => ({ ...plan, everyM }));
    case 'speed-and-turn':
      return INTERVALS_MS.flatMap((fastEveryMs) =>
        TURNS_DEG.flatMap((leastTurnDeg) =>
          SLOPES.map((turnSlope) => ({
            ...plan,
            fastEveryMs: Math.min(fastEveryMs, plan.slowEveryMs),
            leastTurnDeg,
            turnSlope,
          })),
        ),
      );
  }
}
