const MINUTE_MS = 60_000;
const BACK_MS = 60 * MINUTE_MS;
const AHEAD_MS = 12 * MINUTE_MS;

/** The last hour and a little of what is to come, over so many pixels. */
export function scaleTimes(
  nowMs: number,
  width: number,
): { x: (atMs: number) => number; fromMs: number; untilMs: number } {
  const [fromMs, untilMs] = [nowMs - BACK_MS, nowMs + AHEAD_MS];
  return { x: (atMs) => ((atMs - fromMs) / (untilMs - fromMs)) * width, fromMs, untilMs };
}

/** Every twenty minutes of the clock within it. */
export function clockMarks(nowMs: number): readonly number[] {
  const { fromMs, untilMs } = scaleTimes(nowMs, 1);
  const step = 20 * MINUTE_MS;
  const first = Math.ceil(fromMs / step) * step;
  return Array.from({ length: Math.floor((untilMs - first) / step) + 1 }, (_, i) => first + i * step);
}
