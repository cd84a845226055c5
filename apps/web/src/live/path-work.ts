import { useEffect, useRef, useState } from 'react';
import type { PathJob, PathJobs, PathReply } from '../workers/path-messages';
import { useLive } from './store';

/** Long reckoning in a worker of its own: how far it is, what it came to, and how to stop it. */
export interface PathWork<Job extends PathJob> {
  readonly answer: PathJobs[Job]['answer'] | undefined;
  /** 0–1 while it runs. */
  readonly share: number | undefined;
  readonly failed: string | undefined;
  readonly begin: (asked: PathJobs[Job]['asked']) => void;
  readonly stop: () => void;
}

/** What is begun anew replaces what runs; a page that leaves stops it. */
export function usePathWork<Job extends PathJob>(job: Job): PathWork<Job> {
  const tiles = useLive((state) => state.tiles);
  const worker = useRef<Worker>(undefined);
  const [answer, setAnswer] = useState<PathJobs[Job]['answer']>();
  const [share, setShare] = useState<number>();
  const [failed, setFailed] = useState<string>();
  const stop = (): void => {
    worker.current?.terminate();
    worker.current = undefined;
    setShare(undefined);
  };
  useEffect(() => () => worker.current?.terminate(), []);
  const begin = (asked: PathJobs[Job]['asked']): void => {
    stop();
    const made = new Worker(new URL('../workers/path.worker.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    setFailed(undefined);
    setShare(0);
    made.onmessage = ({ data }: MessageEvent<PathReply>) => {
      if (data.kind === 'progress') return setShare(data.share);
      if (data.kind === 'failed') setFailed(data.words);
      else setAnswer(data.answer);
      stop();
    };
    made.onerror = ({ message }) => {
      setFailed(message);
      stop();
    };
    made.postMessage({ job, asked, tiles: tiles.map(({ name }) => name) });
  };
  return { answer, share, failed, begin, stop };
}
