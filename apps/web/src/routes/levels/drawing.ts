import { useEffect, useRef, type RefObject } from 'react';
import type { HeardSound } from '../../live/heard-sound';
import { useInks, type Inks } from '../../pieces/inks';

/** Ten times a second is as good as more to look at, and leaves the page its time. */
const EVERY_MS = 100;

/** A canvas drawn anew when something was heard; sharp on any screen. */
export function useDrawing(
  heard: HeardSound,
  width: number,
  height: number,
  draw: (context: CanvasRenderingContext2D, inks: Inks) => void,
): RefObject<HTMLCanvasElement | null> {
  const ref = useRef<HTMLCanvasElement>(null);
  const inks = useInks();
  useEffect(() => {
    const canvas = ref.current;
    const context = canvas?.getContext('2d');
    if (!canvas || !context || width <= 0) return;
    const sharp = window.devicePixelRatio;
    canvas.width = Math.round(width * sharp);
    canvas.height = Math.round(height * sharp);
    const paint = (): void => {
      context.setTransform(sharp, 0, 0, sharp, 0, 0);
      context.clearRect(0, 0, width, height);
      draw(context, inks);
    };
    let asked = 0;
    let paintedAtMs = 0;
    const stop = heard.listen(() => {
      if (performance.now() - paintedAtMs < EVERY_MS) return;
      asked ||= requestAnimationFrame(() => {
        asked = 0;
        paintedAtMs = performance.now();
        paint();
      });
    });
    paint();
    return () => {
      stop();
      cancelAnimationFrame(asked);
    };
  }, [heard, width, height, draw, inks]);
  return ref;
}
