import type { TileView } from '@mistpeak/contract/elevation';
import ImageLayer from 'ol/layer/Image';
import ImageStatic from 'ol/source/ImageStatic';
import type { Inks } from '../inks';
import type { HillReply } from '../../workers/hill.worker';

/** Light and shade of an elevation tile, reckoned in a worker; undefined where it cannot be read. */
export function hillLayer(tile: TileView, inks: Inks): Promise<ImageLayer<ImageStatic> | undefined> {
  const worker = new Worker(new URL('../../workers/hill.worker.ts', import.meta.url), { type: 'module' });
  return new Promise<ImageLayer<ImageStatic> | undefined>((resolve) => {
    worker.onerror = () => resolve(undefined);
    worker.onmessage = ({ data }: MessageEvent<HillReply>) => {
      if (!data.picture) return resolve(undefined);
      const url = URL.createObjectURL(data.picture);
      const { westDeg, southDeg } = data;
      const source = new ImageStatic({
        url,
        imageExtent: [westDeg, southDeg, westDeg + 1, southDeg + 1],
        projection: 'EPSG:4326',
      });
      resolve(new ImageLayer({ source, zIndex: 4, opacity: 0.55 }));
    };
    // Pure black keeps its hue however faint it is; what shines has the hue of the light.
    worker.postMessage({ name: tile.name, shade: '#000000', light: isDark(inks) ? inks.ink : '#ffffff' });
  }).finally(() => worker.terminate());
}

const isDark = ({ paper }: Inks): boolean => Number.parseInt(paper.slice(1, 3), 16) < 128;
