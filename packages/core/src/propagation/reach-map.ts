import { placeAt, placesAlong, type Position } from '../geo/position.js';
import { wavelengthM, freeSpaceLossDb } from './free-space.js';
import { deltaBullingtonLossDb } from './delta-bullington.js';
import type { RadioEnd } from './margin.js';
import type { Ground } from './profile.js';
import { dbmOf } from './reach.js';

/** How far and how finely. */
export interface ReachMapWish {
  readonly centre: RadioEnd;
  /** The set that is carried round: what it radiates decides whether the centre hears it. */
  readonly mobile: Omit<RadioEnd, 'position'>;
  readonly frequencyMHz: number;
  readonly radiusKm: number;
  readonly bearings: number;
  readonly stepKm: number;
}

/** One bearing: the weaker of both directions, margin dB at (i + 1) · stepKm. */
export interface ReachRay {
  readonly bearingDeg: number;
  readonly marginsDb: Float32Array;
}

/**
 * Ray by ray, so that whoever asks can show progress and stop between two. The ground of a bearing is read once; each point
 * of it is then the end of a profile of its own.
 */
export function* reachMap(wish: ReachMapWish, ground: Ground): Generator<ReachRay> {
  const { centre, radiusKm, bearings, stepKm } = wish;
  const steps = Math.max(2, Math.floor(radiusKm / stepKm));
  const distancesKm = Float64Array.from({ length: steps + 1 }, (_, i) => i * stepKm);
  for (let i = 0; i < bearings; i++) {
    const bearingDeg = (360 * i) / bearings;
    const end = placeAt(centre.position, radiusKm, bearingDeg);
    const heightsM = Float64Array.from(placesAlong(centre.position, end, [...distancesKm]), ground);
    yield { bearingDeg, marginsDb: marginsAlong(wish, distancesKm, heightsM) };
  }
}

function marginsAlong(
  { centre, mobile, frequencyMHz }: ReachMapWish,
  distancesKm: Float64Array,
  heightsM: Float64Array,
): Float32Array {
  const λ = wavelengthM(frequencyMHz);
  const bothGainsDb = centre.gainDbi + mobile.gainDbi;
  const weaker = Math.min(
    dbmOf(mobile.powerW) - centre.thresholdDbm,
    dbmOf(centre.powerW) - mobile.thresholdDbm,
  );
  const antenna1M = centre.isAboveSea
    ? Math.max(1, centre.heightM - (heightsM[0] as number))
    : centre.heightM;
  return Float32Array.from({ length: distancesKm.length - 1 }, (_, i) => {
    const profile = {
      distancesKm: distancesKm.subarray(0, i + 2),
      heightsM: heightsM.subarray(0, i + 2),
      antenna1M,
      antenna2M: mobile.heightM,
    };
    const km = distancesKm[i + 1] as number;
    const loss = freeSpaceLossDb(frequencyMHz, km) + deltaBullingtonLossDb(profile, frequencyMHz, λ);
    return weaker + bothGainsDb - loss;
  });
}

/** The places of a ray, for drawing. */
export function placesOfRay(centre: Position, bearingDeg: number, stepsKm: readonly number[]): Position[] {
  const last = stepsKm.at(-1) as number;
  return placesAlong(centre, placeAt(centre, last, bearingDeg), stepsKm);
}
