import type { Ax25Frame } from '../ax25/frame.js';
import { duplicateKey } from '../digipeating/digipeater.js';

/** As long as a digipeater tells copies apart: what was heard before is no repeat any more. */
export const HEARD_LATELY_MS = 30_000;

/** What one link heard within the last half minute. Times in ms of a clock that only goes forward. */
export class HeardLately {
  /** In the order of the last hearing. */
  private readonly times = new Map<string, number>();

  get size(): number {
    return this.times.size;
  }

  note(frame: Ax25Frame, atMs: number): void {
    for (const [key, time] of this.times) {
      if (atMs - time < HEARD_LATELY_MS) break;
      this.times.delete(key);
    }
    const key = duplicateKey(frame);
    this.times.delete(key);
    this.times.set(key, atMs);
  }

  /**
   * May another program send this frame as it is? Its own frames, yes; one that it repeats only if the link has just heard
   * that very frame, so that nobody's packets are invented here. A frame is a repeat as soon as one entry of its path is used.
   */
  mayPassOn(frame: Ax25Frame, nowMs: number): boolean {
    if (!frame.path.some(({ used }) => used)) return true;
    const at = this.times.get(duplicateKey(frame));
    return at !== undefined && nowMs - at < HEARD_LATELY_MS;
  }
}
