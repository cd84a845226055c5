import type { Track, TrackPoint } from '@mistpeak/contract/station';
import Feature from 'ol/Feature';
import LineString from 'ol/geom/LineString';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Stroke, Style } from 'ol/style';
import type { Inks } from '../inks';

/** Where everything went: thin lines, the selected one strong. */
export class TrackLayer {
  private readonly source = new VectorSource<Feature<LineString>>();
  readonly layer = new VectorLayer({ source: this.source, zIndex: 10 });

  setTracks(tracks: readonly Track[]): void {
    this.source.clear(true);
    this.source.addFeatures(
      tracks.flatMap(({ name, points }) =>
        runsOf(points).map(({ byInternet, run }) => {
          const places = run.map(([, latitudeDeg, longitudeDeg]) => fromLonLat([longitudeDeg, latitudeDeg]));
          const feature = new Feature(new LineString(places));
          feature.setProperties({ name, byInternet });
          return feature;
        }),
      ),
    );
  }

  setLook(inks: Inks, selected: string | undefined): void {
    const styles = [false, true].map((byInternet) => [
      new Style({ stroke: strokeOf(inks.ink3, 1.4, byInternet) }),
      new Style({ stroke: strokeOf(inks.ink, 2.6, byInternet), zIndex: 1 }),
    ]);
    this.layer.setStyle(
      (feature) => styles[feature.get('byInternet') ? 1 : 0]?.[feature.get('name') === selected ? 1 : 0],
    );
  }
}

/** Dots where it came by radio, dashes where it came by the internet. */
const strokeOf = (color: string, width: number, byInternet: boolean): Stroke =>
  byInternet
    ? new Stroke({ color, width, lineDash: [7, 5], lineCap: 'butt' })
    : new Stroke({ color, width, lineDash: [1, 5], lineCap: 'round' });

/** The stretches of a track that came by one way; each begins where the one before it ended. */
export function runsOf(
  points: readonly TrackPoint[],
): { readonly byInternet: boolean; readonly run: readonly TrackPoint[] }[] {
  const runs: { byInternet: boolean; run: TrackPoint[] }[] = [];
  for (const point of points) {
    const byInternet = point[3] === true;
    const last = runs.at(-1);
    if (last?.byInternet === byInternet) last.run.push(point);
    else {
      const before = last?.run.at(-1);
      runs.push({ byInternet, run: before ? [before, point] : [point] });
    }
  }
  return runs;
}
