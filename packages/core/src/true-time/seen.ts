/** Who tells the time: the satellites of a position receiver, or a device that sets itself by its network. */
export type TimeSource = 'receiver' | 'phone';

/** What was told of the time. offByMs: true time less ours; withinMs: how far that may be out, for the way it came. */
export interface TimeSeen {
  readonly source: TimeSource;
  readonly offByMs: number;
  readonly withinMs: number;
  readonly atMs: number;
}

/** A difference of more than this is told, ms. */
export const TOLD_FROM_MS = 2000;

export const isClockWrong = ({ offByMs, withinMs }: Pick<TimeSeen, 'offByMs' | 'withinMs'>): boolean =>
  Math.abs(offByMs) > TOLD_FROM_MS + withinMs;

/** So many of a receiver’s sentences must agree, within a second: one alone may have been kept somewhere on its way. */
export const AGREEING = 3;
const AGREE_WITHIN_MS = 1000;

/** The median of what a receiver’s last sentences tell; undefined while they are too few or do not agree. */
export function agreedOffset(offsets: readonly number[]): number | undefined {
  const last = offsets.slice(-AGREEING).sort((a, b) => a - b);
  if (last.length < AGREEING || (last.at(-1) as number) - (last[0] as number) > AGREE_WITHIN_MS)
    return undefined;
  return last[Math.floor(AGREEING / 2)];
}

/** The week number of the satellites has ten bits (IS-GPS-200): an old receiver tells a date 1024 weeks too early. */
const ROLLOVER_MS = 1024 * 7 * 86_400_000;

/** A receiver’s time, with the weeks it has lost count of; notBeforeMs: no time before it can be. */
export function withLostWeeks(timeMs: number, notBeforeMs: number): number {
  if (timeMs >= notBeforeMs) return timeMs;
  return timeMs + Math.ceil((notBeforeMs - timeMs) / ROLLOVER_MS) * ROLLOVER_MS;
}
