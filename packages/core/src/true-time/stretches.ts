/** Times of the record from one to another, by a clock that was wrong; offByMs: true time less that. */
export interface WrongStretch {
  readonly fromMs: number;
  readonly toMs: number;
  readonly offByMs: number;
}

/**
 * What was written from one time on until now, by a clock that is put right by so much now. A clock that was ahead shows its last
 * hours a second time after it was put back; those stay as they were written, since nothing tells the one from the other.
 */
export function stretchUntil(fromMs: number, nowMs: number, offByMs: number): WrongStretch | undefined {
  const toMs = Math.min(nowMs, nowMs + offByMs);
  return toMs > fromMs ? { fromMs, toMs, offByMs } : undefined;
}

/** What time it truly was, ms since 1970; of stretches that overlap the last counts. */
export function trueMs(atMs: number, stretches: readonly WrongStretch[]): number {
  const stretch = stretches.findLast(({ fromMs, toMs }) => atMs >= fromMs && atMs < toMs);
  return atMs + (stretch?.offByMs ?? 0);
}
