import { placeAt, type Position } from '@mistpeak/core/geo/position';
import { PLACES } from '../terrain/places.js';

const SECOND_MS = 1000;
const DAY_MS = 86_400 * SECOND_MS;
/** Late in the day. */
const LAUNCH_MS = 16 * 3_600 * SECOND_MS;
const CLIMB_MPS = 5;
const FALL_MPS = 11;
const BURST_M = 24_000;
const GROUND_M = 218;
const DRIFT_KMH = 38;
const DRIFT_DEG = 62;

interface Flight {
  readonly position: Position;
  /** Above the sea. */
  readonly heightM: number;
  readonly courseDeg: number;
  readonly speedKmh: number;
  readonly isFlying: boolean;
}

/** One flight a day from Ostrick: up until it bursts, down by parachute, drifting with the wind. */
export function balloonFlight(atMs: number): Flight {
  const seconds = ((atMs - LAUNCH_MS + DAY_MS) % DAY_MS) / SECOND_MS;
  const upS = (BURST_M - GROUND_M) / CLIMB_MPS;
  const heightM = seconds < upS ? GROUND_M + CLIMB_MPS * seconds : BURST_M - FALL_MPS * (seconds - upS);
  const isFlying = heightM >= GROUND_M && seconds >= 0;
  if (!isFlying) return { position: PLACES.ostrick, heightM: GROUND_M, courseDeg: 0, speedKmh: 0, isFlying };
  const position = placeAt(PLACES.ostrick, (seconds / 3600) * DRIFT_KMH, DRIFT_DEG);
  return { position, heightM, courseDeg: DRIFT_DEG, speedKmh: DRIFT_KMH, isFlying };
}
