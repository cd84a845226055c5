import type { Position } from '@mistpeak/core/geo/position';
import { between, toPosition, type Spot } from '../terrain/plane.js';

/** Where something is and where it goes; at rest the speed is 0. */
export interface Movement {
  readonly position: Position;
  readonly courseDeg: number;
  readonly speedKmh: number;
}

/** A day's work that repeats: out along a way, a rest, back, a rest. All follows from the time alone. */
export interface Round {
  readonly way: readonly Spot[];
  readonly kmh: number;
  readonly restMs: number;
  /** How far into its round it is at midnight UTC of the first day. */
  readonly phaseMs: number;
}

const HOUR_MS = 3_600_000;

export function along({ way, kmh, restMs, phaseMs }: Round): (atMs: number) => Movement {
  const lengths = way.slice(1).map((spot, i) => between(way[i] as Spot, spot));
  const lengthKm = lengths.reduce((sum, km) => sum + km, 0);
  const legMs = (lengthKm / kmh) * HOUR_MS;
  const roundMs = 2 * (legMs + restMs);
  return (atMs) => {
    const into = (atMs + phaseMs) % roundMs;
    const isOut = into < legMs + restMs;
    const intoLeg = isOut ? into : into - legMs - restMs;
    const isMoving = intoLeg < legMs;
    const done = Math.min(1, intoLeg / legMs) * lengthKm;
    return {
      ...placeOn(way, lengths, isOut ? done : lengthKm - done, isOut),
      speedKmh: isMoving ? kmh : 0,
    };
  };
}

function placeOn(
  way: readonly Spot[],
  lengths: readonly number[],
  km: number,
  isOut: boolean,
): Pick<Movement, 'position' | 'courseDeg'> {
  let left = km;
  let part = 0;
  while (part < lengths.length - 1 && left > (lengths[part] as number)) left -= lengths[part++] as number;
  const [a, b] = [way[part] as Spot, way[part + 1] as Spot];
  const t = Math.min(1, left / (lengths[part] || 1));
  const bearing = (Math.atan2(b.x - a.x, b.y - a.y) * 180) / Math.PI + (isOut ? 0 : 180);
  return {
    position: toPosition({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t }),
    courseDeg: (bearing + 720) % 360,
  };
}
