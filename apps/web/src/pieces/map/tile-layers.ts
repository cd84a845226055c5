import type { MapView } from '@mistpeak/contract/maps';
import type { FeatureLike } from 'ol/Feature';
import type BaseLayer from 'ol/layer/Base';
import VectorTileLayer from 'ol/layer/VectorTile';
import WebGLTileLayer from 'ol/layer/WebGLTile';
import { Fill, Stroke, Style, Text } from 'ol/style';
import type { FileSource } from 'pmtiles';
import { PMTilesRasterSource, PMTilesVectorSource } from 'ol-pmtiles';
import type { Inks } from '../inks';
import { groundOf, type Ground } from './ground';
import { sourceOf, tilesUrl, type KeptArea } from './kept-areas';
import { mix, NAMES } from './land-layers';

/**
 * The layer of a map file; its tiles are fetched by range as they are seen, or read from what is kept here. undefined: nobody
 * knows that kind of tile.
 */
export function tileLayer(map: MapView | KeptArea): BaseLayer | undefined {
  // The library takes a source too; its types say only where.
  const url = ('file' in map ? sourceOf(map) : tilesUrl(map.name)) as string & FileSource;
  if (map.tiles === 'vector')
    return new VectorTileLayer({ source: new PMTilesVectorSource({ url }), declutter: NAMES, zIndex: 3 });
  if (map.tiles === 'unknown') return undefined;
  return new WebGLTileLayer({ source: new PMTilesRasterSource({ url }), zIndex: 1.5 });
}

/** In the inks of the present light: the same signs by day, at dusk and in red. */
export function tileStyle(inks: Inks): (feature: FeatureLike) => Style | undefined {
  const fill = (color: string, zIndex: number): Style => new Style({ fill: new Fill({ color }), zIndex });
  const line = (color: string, width: number, zIndex: number, lineDash?: number[]): Style =>
    new Style({ stroke: new Stroke({ color, width, ...(lineDash ? { lineDash } : {}) }), zIndex });
  const styles: Partial<Record<Ground, Style>> = {
    land: fill(inks.sheet, 0),
    wood: fill(mix(inks.sheet, inks.r2, 0.5), 1),
    built: fill(mix(inks.sheet, inks.r3, 0.35), 2),
    water: fill(inks.paper, 3),
    stream: line(inks.r3, 1, 4),
    building: fill(inks.r2, 5),
    track: line(inks.ink3, 1.1, 6, [5, 4]),
    road: line(inks.ink3, 1.7, 7),
    border: line(inks.edge, 1.4, 8, [2, 4]),
  };
  return (feature) => {
    const text = (name: string): string => {
      const value: unknown = feature.get(name);
      return typeof value === 'string' ? value : '';
    };
    const ground = groundOf(text('layer'), text('kind') || text('class') || text('pmap:kind'));
    if (ground !== 'place' && ground !== 'summit') return ground && styles[ground];
    const name = text('name');
    if (name === '') return undefined;
    return new Style({
      text: new Text({
        text: ground === 'summit' ? `▲ ${name}` : name,
        font: `italic 13px 'Atkinson Hyperlegible Next Variable', sans-serif`,
        fill: new Fill({ color: inks.ink2 }),
        stroke: new Stroke({ color: inks.sheet, width: 3 }),
      }),
      zIndex: 9,
    });
  };
}
