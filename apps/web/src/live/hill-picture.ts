import type { HillReply, HillWish } from '../workers/hill.worker';

/** Light and shade of an elevation tile, reckoned in a worker; undefined where it cannot be read. */
export function hillPicture(wish: HillWish): Promise<HillReply | undefined> {
  const worker = new Worker(new URL('../workers/hill.worker.ts', import.meta.url), { type: 'module' });
  return new Promise<HillReply | undefined>((resolve) => {
    worker.onerror = () => resolve(undefined);
    worker.onmessage = ({ data }: MessageEvent<HillReply>) => resolve(data);
    worker.postMessage(wish);
  }).finally(() => worker.terminate());
}
