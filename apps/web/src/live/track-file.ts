import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { TrackFile } from '@mistpeak/core/tracks/track';
import type { TrackReply } from '../workers/track.worker';

/** Reads a track in a worker, so that the page stays quick whatever the file. Rejects with what is wrong, in words. */
export function readTrackFile(file: File, progress: (share: number) => void): Promise<TrackFile> {
  const worker = new Worker(new URL('../workers/track.worker.ts', import.meta.url), { type: 'module' });
  return new Promise<TrackFile>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<TrackReply>) => {
      if (data.kind === 'progress') return progress(data.share);
      if (isMalformed(data.track))
        reject(new Error(`${file.name} is no track that can be read: ${data.track.malformed}.`));
      else resolve(data.track);
    };
    worker.onerror = ({ message }) => reject(new Error(`${file.name} could not be read: ${message}.`));
    worker.postMessage(file);
  }).finally(() => worker.terminate());
}
