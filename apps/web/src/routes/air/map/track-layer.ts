import type { Track } from '@mistpeak/contract/station';
import Feature from 'ol/Feature';
import LineString from 'ol/geom/LineString';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Stroke, Style } from 'ol/style';
import type { Inks } from '../../../pieces/inks';

/** Where everything went: thin dotted lines, the selected one strong. */
export class TrackLayer {
  private readonly source = new VectorSource<Feature<LineString>>();
  readonly layer = new VectorLayer({ source: this.source, zIndex: 10 });

  setTracks(tracks: readonly Track[]): void {
    this.source.clear(true);
    this.source.addFeatures(
      tracks.map(({ name, points }) => {
        const line = new LineString(
          points.map(([, latitudeDeg, longitudeDeg]) => fromLonLat([longitudeDeg, latitudeDeg])),
        );
        const feature = new Feature(line);
        feature.setId(name);
        return feature;
      }),
    );
  }

  setLook(inks: Inks, selected: string | undefined): void {
    const faint = new Style({
      stroke: new Stroke({ color: inks.ink3, width: 1.4, lineDash: [1, 5], lineCap: 'round' }),
    });
    const strong = new Style({
      stroke: new Stroke({ color: inks.ink, width: 2.6, lineDash: [1, 5], lineCap: 'round' }),
      zIndex: 1,
    });
    this.layer.setStyle((feature) => (feature.getId() === selected ? strong : faint));
  }
}
