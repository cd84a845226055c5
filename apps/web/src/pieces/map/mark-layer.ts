import type { Position } from '@mistpeak/core/geo/position';
import Feature from 'ol/Feature';
import LineString from 'ol/geom/LineString';
import Point from 'ol/geom/Point';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Fill, RegularShape, Stroke, Style } from 'ol/style';
import type { Inks } from '../inks';

const at = ({ latitudeDeg, longitudeDeg }: Position): number[] => fromLonLat([longitudeDeg, latitudeDeg]);

/** The place that was clicked, and the line along which is measured. */
export class MarkLayer {
  private readonly source = new VectorSource();
  readonly layer = new VectorLayer({ source: this.source, zIndex: 18 });

  setInks(inks: Inks): void {
    this.layer.setStyle(
      new Style({
        stroke: new Stroke({ color: inks.look, width: 2, lineDash: [6, 4] }),
        image: new RegularShape({
          points: 4,
          radius: 9,
          radius2: 2.5,
          fill: new Fill({ color: inks.look }),
          stroke: new Stroke({ color: inks.sheet, width: 1 }),
        }),
      }),
    );
  }

  setMarks(from: Position | undefined, place: Position | undefined): void {
    this.source.clear(true);
    for (const one of [from, place]) if (one) this.source.addFeature(new Feature(new Point(at(one))));
    if (from && place) this.source.addFeature(new Feature(new LineString([at(from), at(place)])));
  }
}
