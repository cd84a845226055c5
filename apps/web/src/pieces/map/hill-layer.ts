import type { TileView } from '@mistpeak/contract/elevation';
import Feature from 'ol/Feature';
import LineString from 'ol/geom/LineString';
import ImageLayer from 'ol/layer/Image';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Fill, Stroke, Style, Text } from 'ol/style';
import { NAMES } from './land-layers';
import ImageStatic from 'ol/source/ImageStatic';
import { hillPicture } from '../../live/hill-picture';
import type { Inks } from '../inks';

/** What a tile of elevation shows: light and shade, and lines of equal height. */
export interface HillLayers {
  readonly shade: ImageLayer<ImageStatic>;
  readonly contours: VectorLayer;
}

/** undefined where the tile cannot be read. */
export async function hillLayers({ name }: TileView, inks: Inks): Promise<HillLayers | undefined> {
  // Pure black keeps its hue however faint it is; what shines has the hue of the light.
  const reply = await hillPicture({ name, shade: '#000000', light: isDark(inks) ? inks.ink : '#ffffff' });
  if (!reply?.picture) return undefined;
  const { picture, westDeg, southDeg, contours = [] } = reply;
  const source = new ImageStatic({
    url: URL.createObjectURL(picture),
    imageExtent: [westDeg, southDeg, westDeg + 1, southDeg + 1],
    projection: 'EPSG:4326',
  });
  const lines = contours.map(({ metres, points }) => {
    const feature = new Feature(new LineString(points.map(([x, y]) => fromLonLat([x, y]))));
    feature.set('metres', metres);
    return feature;
  });
  return {
    shade: new ImageLayer({ source, zIndex: 4, opacity: 0.55 }),
    contours: new VectorLayer({
      source: new VectorSource({ features: lines }),
      zIndex: 4.5,
      declutter: NAMES,
      // Every fifth is stronger, and says its height.
      style: (feature, resolution) => {
        const metres = feature.get('metres') as number;
        const isMain = metres % MAIN_M === 0;
        return new Style({
          stroke: new Stroke({ color: inks.r3, width: isMain ? 1.1 : 0.5 }),
          ...(isMain && resolution < NUMBERED_FROM
            ? {
                text: new Text({
                  text: String(metres),
                  placement: 'line',
                  font: `11px 'Atkinson Hyperlegible Mono Variable', monospace`,
                  fill: new Fill({ color: inks.ink3 }),
                  stroke: new Stroke({ color: inks.sheet, width: 2.5 }),
                }),
              }
            : {}),
        });
      },
    }),
  };
}

const MAIN_M = 100;
/** Metres a pixel. */
const NUMBERED_FROM = 60;

const isDark = ({ paper }: Inks): boolean => Number.parseInt(paper.slice(1, 3), 16) < 128;
