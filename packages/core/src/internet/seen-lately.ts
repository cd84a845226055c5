import type { InternetPacket } from './line.js';
import { toLatin1 } from '../bits/octets.js';

/** As servers drop duplicates: the same source, destination and text within this time (same description, "duplicates"). */
export const SEEN_MS = 30_000;

/** What came within the last half minute, whichever connection it came by. Times in ms of a clock that only goes forward. */
export class SeenLately {
  /** In the order of coming. */
  private readonly times = new Map<string, number>();

  /** False for what was seen already. */
  isNew({ source, destination, info }: InternetPacket, atMs: number): boolean {
    for (const [key, time] of this.times) {
      if (atMs - time < SEEN_MS) break;
      this.times.delete(key);
    }
    const key = `${source}>${destination}:${toLatin1(info)}`;
    if (this.times.has(key)) return false;
    this.times.set(key, atMs);
    return true;
  }
}
