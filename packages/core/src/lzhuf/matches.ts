/** Radio mail's window (N of lzhuf.c, which has 4096), longest match (F), and the longest that is not worth a match. */
export const WINDOW = 2048;
export const LONGEST_MATCH = 60;
export const TOO_SHORT = 2;
/** lzhuf.c fills its ring with these. */
export const FILLING = 0x20;

const HASHES = 1 << 14;
/** Looks at so many earlier places at most; more gain little. */
const MOST_LOOKED_AT = 256;

const hashOf = (octets: Uint8Array, at: number): number =>
  (((octets[at] as number) << 10) ^ ((octets[at + 1] as number) << 5) ^ (octets[at + 2] as number)) &
  (HASHES - 1);

/** Where the longest match with what stands at a place begins, by chains of equal beginnings. */
export class Matches {
  /** By hash: the last place + 1. By place: the one before with the same hash, + 1. */
  private readonly last = new Int32Array(HASHES);
  private readonly before: Int32Array;

  constructor(private readonly octets: Uint8Array) {
    this.before = new Int32Array(octets.length);
  }

  /** From then on it can be found. */
  note(at: number): void {
    if (at + TOO_SHORT >= this.octets.length) return;
    const hash = hashOf(this.octets, at);
    this.before[at] = this.last[hash] as number;
    this.last[hash] = at + 1;
  }

  /** back: octets between the two beginnings, 1 to WINDOW; length 0 where nothing is worth it. */
  longest(at: number): { readonly length: number; readonly back: number } {
    const { octets } = this;
    const most = Math.min(LONGEST_MATCH, octets.length - at);
    let [length, back] = [0, 0];
    if (most <= TOO_SHORT) return { length, back };
    let place = (this.last[hashOf(octets, at)] as number) - 1;
    for (let looked = 0; place >= 0 && at - place <= WINDOW && looked < MOST_LOOKED_AT; looked++) {
      let same = 0;
      if (octets[place + length] === octets[at + length])
        while (same < most && octets[place + same] === octets[at + same]) same++;
      if (same > length) [length, back] = [same, at - place];
      if (length === most) break;
      place = (this.before[place] as number) - 1;
    }
    return length > TOO_SHORT ? { length, back } : { length: 0, back: 0 };
  }
}
