/** How long something has been so in all, ms of any clock. */
export class Stopwatch {
  private sinceMs: number | undefined;
  private pastMs = 0;

  turn(on: boolean, nowMs: number): void {
    if (on) this.sinceMs ??= nowMs;
    else {
      this.pastMs = this.totalMs(nowMs);
      this.sinceMs = undefined;
    }
  }

  totalMs(nowMs: number): number {
    return this.pastMs + (this.sinceMs === undefined ? 0 : nowMs - this.sinceMs);
  }
}
