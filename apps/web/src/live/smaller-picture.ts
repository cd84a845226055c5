import { useEffect, useRef, useState } from 'react';
import type { PictureReply } from '../workers/picture-messages';

/** A picture made smaller as long as the choice stands; undefined while it is made. */
export function useSmallerPicture(
  picture: Blob | undefined,
  longestPx: number,
  quality: number,
): PictureReply | undefined {
  const [made, setMade] = useState<{
    readonly of: string;
    readonly picture: Blob;
    readonly reply: PictureReply;
  }>();
  const worker = useRef<Worker | undefined>(undefined);
  const turn = useRef(0);
  useEffect(() => {
    worker.current = new Worker(new URL('../workers/picture.worker.ts', import.meta.url), { type: 'module' });
    return () => worker.current?.terminate();
  }, []);
  useEffect(() => {
    if (!picture || !worker.current) return;
    const id = ++turn.current;
    worker.current.onmessage = ({ data }: MessageEvent<PictureReply>) => {
      if (data.id === turn.current) setMade({ of: `${longestPx} ${quality}`, picture, reply: data });
    };
    worker.current.postMessage({ id, picture, longestPx, quality });
  }, [picture, longestPx, quality]);
  return made?.of === `${longestPx} ${quality}` && made.picture === picture ? made.reply : undefined;
}
