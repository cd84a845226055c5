import type { TileView } from '@mistpeak/contract/elevation';
import ImageLayer from 'ol/layer/Image';
import ImageStatic from 'ol/source/ImageStatic';
import { hillPicture } from '../../live/hill-picture';
import type { Inks } from '../inks';

/** Light and shade of an elevation tile as a layer; undefined where it cannot be read. */
export async function hillLayer(
  { name }: TileView,
  inks: Inks,
): Promise<ImageLayer<ImageStatic> | undefined> {
  // Pure black keeps its hue however faint it is; what shines has the hue of the light.
  const reply = await hillPicture({ name, shade: '#000000', light: isDark(inks) ? inks.ink : '#ffffff' });
  if (!reply?.picture) return undefined;
  const { picture, westDeg, southDeg } = reply;
  const source = new ImageStatic({
    url: URL.createObjectURL(picture),
    imageExtent: [westDeg, southDeg, westDeg + 1, southDeg + 1],
    projection: 'EPSG:4326',
  });
  return new ImageLayer({ source, zIndex: 4, opacity: 0.55 });
}

const isDark = ({ paper }: Inks): boolean => Number.parseInt(paper.slice(1, 3), 16) < 128;
