import type { Position } from '@mistpeak/core/geo/position';
import Feature from 'ol/Feature';
import LineString from 'ol/geom/LineString';
import Point from 'ol/geom/Point';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Fill, RegularShape, Stroke, Style } from 'ol/style';
import type { Inks } from '../inks';

/** One stop on the way of a frame; without a place, the line goes on dashed to the next that has one. */
export interface Stop {
  readonly call: string;
  readonly position: Position | undefined;
}

/** The way of one frame, hop by hop, an arrow in the middle of each hop. */
export class WayLayer {
  private readonly source = new VectorSource();
  readonly layer = new VectorLayer({ source: this.source, zIndex: 15 });

  setWay(stops: readonly Stop[], inks: Inks): void {
    this.source.clear(true);
    this.source.addFeatures(hopsOf(stops).flatMap((hop) => featuresOf(hop, inks)));
  }
}

interface Hop {
  readonly from: number[];
  readonly to: number[];
  /** Somebody in between whose place is not known. */
  readonly isBroken: boolean;
}

export function hopsOf(stops: readonly Stop[]): Hop[] {
  const hops: Hop[] = [];
  let last: number[] | undefined;
  let isBroken = false;
  for (const { position } of stops) {
    if (!position) {
      isBroken = true;
      continue;
    }
    const place = fromLonLat([position.longitudeDeg, position.latitudeDeg]);
    if (last) hops.push({ from: last, to: place, isBroken });
    last = place;
    isBroken = false;
  }
  return hops;
}

function featuresOf({ from, to, isBroken }: Hop, inks: Inks): Feature[] {
  const line = new Feature(new LineString([from, to]));
  line.setStyle([
    new Style({ stroke: new Stroke({ color: inks.sheet, width: 6 }) }),
    new Style({
      stroke: new Stroke({ color: inks.proved, width: 3, ...(isBroken ? { lineDash: [8, 7] } : {}) }),
    }),
  ]);
  const [x0 = 0, y0 = 0] = from;
  const [x1 = 0, y1 = 0] = to;
  const arrow = new Feature(new Point([(x0 + x1) / 2, (y0 + y1) / 2]));
  arrow.setStyle(
    new Style({
      image: new RegularShape({
        points: 3,
        radius: 8,
        rotation: Math.atan2(x1 - x0, y1 - y0),
        rotateWithView: true,
        fill: new Fill({ color: inks.proved }),
        stroke: new Stroke({ color: inks.sheet, width: 1.5 }),
      }),
    }),
  );
  return [line, arrow];
}
