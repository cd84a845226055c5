import type { Leg } from '@mistpeak/core/watch/watched';
import Feature from 'ol/Feature';
import LineString from 'ol/geom/LineString';
import Polygon from 'ol/geom/Polygon';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Fill, Stroke, Style, Text } from 'ol/style';
import type { Inks } from '../inks';

/** Ways that are to be kept to, and ground that is not to be left. */
export class LegLayer {
  private readonly source = new VectorSource();
  readonly layer = new VectorLayer({ source: this.source, zIndex: 8 });

  setLegs(legs: readonly Leg[], inks: Inks): void {
    this.source.clear(true);
    for (const { name, kind, points } of legs) {
      const places = points.map(({ latitudeDeg, longitudeDeg }) => fromLonLat([longitudeDeg, latitudeDeg]));
      const [first] = places;
      if (!first) continue;
      const feature = new Feature(
        kind === 'area' ? new Polygon([[...places, first]]) : new LineString(places),
      );
      feature.setStyle([
        new Style({ stroke: new Stroke({ color: inks.sheet, width: 6 }) }),
        new Style({
          stroke: new Stroke({ color: inks.look, width: 2.2, lineDash: kind === 'area' ? [3, 5] : [9, 5] }),
          ...(kind === 'area' ? { fill: new Fill({ color: `${inks.look}14` }) } : {}),
          text: new Text({
            text: name,
            placement: kind === 'area' ? 'point' : 'line',
            font: `italic 12.5px 'Atkinson Hyperlegible Next Variable', sans-serif`,
            fill: new Fill({ color: inks.look }),
            stroke: new Stroke({ color: inks.sheet, width: 3 }),
            offsetY: kind === 'area' ? 0 : -9,
          }),
        }),
      ]);
      this.source.addFeature(feature);
    }
  }
}
