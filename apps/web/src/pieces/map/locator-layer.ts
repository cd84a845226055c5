import { locatorSquares } from '@mistpeak/core/geo/locator-grid';
import Feature from 'ol/Feature';
import type Map from 'ol/Map';
import Polygon from 'ol/geom/Polygon';
import VectorLayer from 'ol/layer/Vector';
import { transformExtent } from 'ol/proj';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Fill, Stroke, Style, Text } from 'ol/style';
import type { Inks } from '../inks';

/** More would be a net without letters. */
const MOST = 150;
const HIGHEST = 85;

/** Locator squares of what is seen, as fine as there is room; the returned function takes them off again. */
export function addLocators(map: Map, inks: Inks): () => void {
  const source = new VectorSource();
  const layer = new VectorLayer({ source, zIndex: 6 });
  const draw = (): void => {
    const [west = 0, south = 0, east = 0, north = 0] = transformExtent(
      map.getView().calculateExtent(map.getSize()),
      'EPSG:3857',
      'EPSG:4326',
    );
    source.clear(true);
    const bounds = { west, east, south: Math.max(-HIGHEST, south), north: Math.min(HIGHEST, north) };
    source.addFeatures(
      locatorSquares(bounds, MOST).map((square) => {
        const corners = [
          [square.west, square.south],
          [square.east, square.south],
          [square.east, Math.min(HIGHEST, square.north)],
          [square.west, Math.min(HIGHEST, square.north)],
          [square.west, square.south],
        ].map((corner) => fromLonLat(corner));
        const feature = new Feature(new Polygon([corners]));
        feature.set('name', square.name);
        return feature;
      }),
    );
  };
  layer.setStyle(
    (feature) =>
      new Style({
        stroke: new Stroke({ color: inks.r3, width: 1 }),
        text: new Text({
          text: feature.get('name') as string,
          font: `600 13px 'Atkinson Hyperlegible Mono Variable', monospace`,
          fill: new Fill({ color: inks.ink3 }),
          stroke: new Stroke({ color: inks.sheet, width: 3 }),
        }),
      }),
  );
  draw();
  map.addLayer(layer);
  map.on('moveend', draw);
  return () => {
    map.un('moveend', draw);
    map.removeLayer(layer);
  };
}
