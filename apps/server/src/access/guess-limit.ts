/** Wrong or not, so many tries of one address are looked at in a minute, and so many of all others together. */
const OF_ONE = 5;
const OF_ALL = 30;
const COUNTS_MS = 60_000;

/**
 * How often passwords and codes may be tried. A try counts before it is looked at, so that many at the same moment are not
 * more than one after another. Others' tries never count against this machine. Times of a clock that only goes forward.
 */
export class GuessLimit {
  private tries: { readonly atMs: number; readonly address: string }[] = [];

  /** False when it must not be looked at now. isHere: it comes from this machine. */
  take(address: string, isHere: boolean, nowMs: number): boolean {
    this.tries = this.tries.filter(({ atMs }) => nowMs - atMs < COUNTS_MS);
    const own = isHere ? HERE : address;
    const ofOne = this.tries.filter((one) => one.address === own).length;
    const ofAll = this.tries.filter((one) => one.address !== HERE).length;
    if (ofOne >= OF_ONE || (!isHere && ofAll >= OF_ALL)) return false;
    this.tries.push({ atMs: nowMs, address: own });
    return true;
  }

  /** It was right: it was no guess. */
  giveBack(address: string, isHere: boolean): void {
    const own = isHere ? HERE : address;
    const at = this.tries.findLastIndex((one) => one.address === own);
    if (at >= 0) this.tries.splice(at, 1);
  }
}

const HERE = 'this machine';
