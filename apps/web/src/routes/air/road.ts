import { callWithoutSsid } from '@mistpeak/core/callsign/callsign';
import { closestApproach, type Approach, type Moving } from '@mistpeak/core/geo/approach';
import { wayTo } from '@mistpeak/core/geo/position';
import { formatDistance, type UnitSystem } from '@mistpeak/core/units/units';
import type { StationView } from '@mistpeak/contract/station';

/** Heard by radio so lately: whoever is on the road wants no others. */
const LATELY_MS = 60 * 60_000;
/** A course and speed say where somebody goes for so long. */
const FRESH_MS = 10 * 60_000;
/** Slower is standing (common practice, no source). */
const STANDING_MPS = 0.5;
/** Further ahead nobody goes straight on. */
const AHEAD_S = 30 * 60;
const SLOW_MPS = 0.3;
/** Symbol codes of either table (APRS symbol tables). */
const UNMANNED = ['#', '&', '_'];

export interface OnTheRoad {
  readonly station: StationView;
  readonly distanceKm: number;
  readonly bearingDeg: number;
  /** Absent where both stand, or nobody knows how they go. */
  readonly approach?: Approach;
}

/** Whoever was heard by radio lately, with a place, nearest first; none of one's own. */
export function onTheRoad(
  stations: Iterable<StationView>,
  here: Moving,
  { nowMs, ownCall }: { nowMs: number; ownCall: string },
): readonly OnTheRoad[] {
  const found: OnTheRoad[] = [];
  for (const station of stations) {
    const { name, kind, position, radioAtMs, symbol } = station;
    if (!position || radioAtMs === undefined || nowMs - radioAtMs > LATELY_MS) continue;
    // Digipeaters, gateways and weather stations: nobody sits there.
    if (symbol && UNMANNED.includes(symbol.code)) continue;
    if (kind === 'object' || callWithoutSsid(name) === ownCall) continue;
    const approach = approachOf(here, station, nowMs);
    found.push({ station, ...wayTo(here.position, position), ...(approach ? { approach } : {}) });
  }
  return found.sort((a, b) => a.distanceKm - b.distanceKm);
}

function approachOf(here: Moving, station: StationView, nowMs: number): Approach | undefined {
  const { position, positionAtMs, courseDeg = 0, speedMps = 0 } = station;
  if (!position || positionAtMs === undefined || nowMs - positionAtMs > FRESH_MS) return undefined;
  if (Math.max(here.speedMps, speedMps) < STANDING_MPS) return undefined;
  return closestApproach(here, { position, courseDeg, speedMps });
}

/** `comes towards you, passes in 6 min at 800 m`; `parts from you`; `stands`. */
export function approachWords(
  { station, approach }: Pick<OnTheRoad, 'station' | 'approach'>,
  units: UnitSystem,
): string {
  if (!approach) return (station.speedMps ?? 0) < STANDING_MPS ? 'stands' : 'goes, nobody knows where';
  const { rangeRateMps, nearestInS, nearestKm } = approach;
  if (Math.abs(rangeRateMps) < SLOW_MPS) return 'keeps its distance';
  if (rangeRateMps > 0) return 'parts from you';
  if (nearestInS > AHEAD_S) return 'comes nearer';
  const minutes = Math.round(nearestInS / 60);
  const when = minutes === 0 ? 'within a minute' : `in ${minutes} min`;
  return `comes towards you, passes ${when} at ${formatDistance(nearestKm, units)}`;
}

/** As near as two fixes are true: no direction leads there. */
const HERE_KM = 0.03;
export const isHere = ({ distanceKm }: Pick<OnTheRoad, 'distanceKm'>): boolean => distanceKm < HERE_KM;

/** Which way, and whether it comes. */
export function directionWords(one: OnTheRoad, units: UnitSystem): string {
  if (isHere(one)) return 'where you are';
  return `${String(Math.round(one.bearingDeg) % 360).padStart(3, '0')}°, ${approachWords(one, units)}`;
}
