/** Looked at over so much sound. */
const OVER_SECONDS = 3;
/** Of the time of the sound: more than this leaves no room for the rest of the page. */
const MOST = 0.8;

/** Whether reckoning takes nearly as long as the sound lasts. */
export class Slowness {
  private seconds = 0;
  private busyMs = 0;

  constructor(private readonly rateHz: number) {}

  /** One block, and how long it took. True once for each stretch that was too slow. */
  note(samples: number, tookMs: number): boolean {
    this.seconds += samples / this.rateHz;
    this.busyMs += tookMs;
    if (this.seconds < OVER_SECONDS) return false;
    const isSlow = this.busyMs > MOST * 1000 * this.seconds;
    this.seconds = 0;
    this.busyMs = 0;
    return isSlow;
  }
}
