import type { Moving } from '@mistpeak/core/geo/approach';
import { deadReckoned } from '@mistpeak/core/geo/approach';
import { placeAt, type Position } from '@mistpeak/core/geo/position';
import {
  formatDistance,
  METRES_PER_MILE,
  METRES_PER_NAUTICAL_MILE,
  type UnitSystem,
} from '@mistpeak/core/units/units';
import type { StationView } from '@mistpeak/contract/station';
import Feature from 'ol/Feature';
import LineString from 'ol/geom/LineString';
import Polygon from 'ol/geom/Polygon';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Circle as CircleStyle, Stroke, Style, Text, Fill } from 'ol/style';
import Point from 'ol/geom/Point';
import type { Inks } from '../inks';

const RINGS = [2, 5, 10, 20, 50, 100] as const;
const POINTS = 72;
/** Straight on for no longer than this. */
const AHEAD_MS = 10 * 60_000;
const MOVES_MPS = 0.5;

const place = ({ latitudeDeg, longitudeDeg }: Position): number[] => fromLonLat([longitudeDeg, latitudeDeg]);

/** A circle over the ground, not on the map's plane. */
export function circleRound(centre: Position, radiusKm: number): number[][] {
  return Array.from({ length: POINTS + 1 }, (_, i) => place(placeAt(centre, radiusKm, (360 * i) / POINTS)));
}

/** Where a station is by now if it went straight on since its last position; undefined: it stands, or nobody knows. */
export function aheadOf(
  station: StationView,
  nowMs: number,
): { readonly from: Position; readonly to: Position } | undefined {
  const { position, positionAtMs, courseDeg, speedMps, kind } = station;
  if (!position || positionAtMs === undefined || courseDeg === undefined || kind === 'object')
    return undefined;
  const ageMs = nowMs - positionAtMs;
  if ((speedMps ?? 0) < MOVES_MPS || ageMs <= 0 || ageMs > AHEAD_MS) return undefined;
  const moving: Moving = { position, courseDeg, speedMps: speedMps ?? 0 };
  return { from: position, to: deadReckoned(moving, ageMs / 1000) };
}

/** Rings of distance round one's own place, the range that stations tell, and where what moves is by now. */
export class RingLayer {
  private readonly source = new VectorSource();
  readonly layer = new VectorLayer({ source: this.source, zIndex: 9 });

  draw(
    stations: ReadonlyMap<string, StationView>,
    {
      here,
      rings,
      ranges,
      ahead,
      units,
      nowMs,
      inks,
    }: {
      here: Position | null | undefined;
      rings: boolean;
      ranges: boolean;
      ahead: boolean;
      units: UnitSystem;
      nowMs: number;
      inks: Inks;
    },
  ): void {
    this.source.clear(true);
    const features: Feature[] = [];
    if (here && rings) features.push(...ringsRound(here, units, inks));
    for (const station of stations.values()) {
      if (ranges && station.position && station.rangeM !== undefined && station.rangeM > 0) {
        const circle = new Feature(new Polygon([circleRound(station.position, station.rangeM / 1000)]));
        circle.setStyle(new Style({ stroke: new Stroke({ color: inks.r4, width: 1.2, lineDash: [2, 4] }) }));
        features.push(circle);
      }
      const reckoned = ahead ? aheadOf(station, nowMs) : undefined;
      if (!reckoned) continue;
      const line = new Feature(new LineString([place(reckoned.from), place(reckoned.to)]));
      line.setStyle(new Style({ stroke: new Stroke({ color: inks.ink2, width: 1.4, lineDash: [3, 3] }) }));
      const mark = new Feature(new Point(place(reckoned.to)));
      mark.setStyle(
        new Style({
          image: new CircleStyle({ radius: 4.5, stroke: new Stroke({ color: inks.ink2, width: 1.6 }) }),
        }),
      );
      features.push(line, mark);
    }
    this.source.addFeatures(features);
  }
}

function ringsRound(here: Position, units: UnitSystem, inks: Inks): Feature[] {
  const km = { metric: 1, imperial: METRES_PER_MILE / 1000, nautical: METRES_PER_NAUTICAL_MILE / 1000 }[
    units
  ];
  return RINGS.map((distance) => {
    const ring = new Feature(new Polygon([circleRound(here, distance * km)]));
    ring.setStyle([
      new Style({ stroke: new Stroke({ color: inks.ink3, width: 1, lineDash: [6, 6] }) }),
      new Style({
        geometry: new Point(place(placeAt(here, distance * km, 0))),
        text: new Text({
          text: formatDistance(distance * km, units),
          font: `12px 'Atkinson Hyperlegible Mono Variable', monospace`,
          fill: new Fill({ color: inks.ink2 }),
          stroke: new Stroke({ color: inks.sheet, width: 3 }),
        }),
      }),
    ]);
    return ring;
  });
}
