import { malformed, type Malformed } from '../bits/malformed.js';
import { FILLING, LONGEST_MATCH, Matches, TOO_SHORT, WINDOW } from './matches.js';
import { readPosition, writePosition } from './position-code.js';
import { AdaptiveTree } from './tree.js';

/** The character of a match of 3 octets is 256 (lzhuf.c: 255 − THRESHOLD + length). */
const MATCH_BASE = 255 - TOO_SHORT;

/**
 * The bare stream of lzhuf.c. The last octet is filled with zero bits. Greedy, as the original. What is before the beginning counts
 * as LONGEST_MATCH spaces, of which the original's ring has more: a decoder with a larger ring reads the same.
 */
export function compress(octets: Uint8Array): Uint8Array {
  const whole = new Uint8Array(LONGEST_MATCH + octets.length).fill(FILLING, 0, LONGEST_MATCH);
  whole.set(octets, LONGEST_MATCH);
  const bits = new BitWriter();
  const put = (one: number): void => bits.put(one);
  const tree = new AdaptiveTree();
  const matches = new Matches(whole);
  for (let at = 0; at < LONGEST_MATCH; at++) matches.note(at);
  for (let at = LONGEST_MATCH; at < whole.length;) {
    const { length, back } = matches.longest(at);
    const character = length > 0 ? MATCH_BASE + length : (whole[at] as number);
    tree.write(character, put);
    tree.count(character);
    if (length > 0) writePosition(back - 1, put);
    for (const end = at + Math.max(1, length); at < end; at++) matches.note(at);
  }
  return bits.end();
}

class BitWriter {
  private octets = new Uint8Array(1024);
  private length = 0;
  private gathered = 1;

  put(bit: number): void {
    this.gathered = (this.gathered << 1) | bit;
    if (this.gathered >= 0x100) this.octet();
  }

  end(): Uint8Array {
    while (this.gathered !== 1) this.put(0);
    return this.octets.slice(0, this.length);
  }

  private octet(): void {
    if (this.length === this.octets.length) {
      const larger = new Uint8Array(this.length * 2);
      larger.set(this.octets);
      this.octets = larger;
    }
    this.octets[this.length++] = this.gathered;
    this.gathered = 1;
  }
}

/**
 * The stream back, from pieces of any size: so many octets in all as it is told, never more. A match that reaches further back than the
 * window is malformed.
 */
export class Decompressor {
  private readonly tree = new AdaptiveTree();
  private readonly ring = new Uint8Array(WINDOW).fill(FILLING);
  private made = 0;
  private pending: Uint8Array = new Uint8Array();
  private trouble: Malformed | undefined;

  constructor(private readonly total: number) {}

  isWhole(): boolean {
    return this.made === this.total;
  }

  /** What these octets bring; afterwards, or in between, what is wrong with them. */
  push(octets: Uint8Array): Uint8Array | Malformed {
    if (this.trouble) return this.trouble;
    const out: number[] = [];
    const input = new Uint8Array(this.pending.length + octets.length);
    input.set(this.pending);
    input.set(octets, this.pending.length);
    let taken = this.taken;
    while (this.made < this.total) {
      const bits = new BitReader(input, taken);
      const step = this.next(bits);
      if (step === undefined) break;
      if (step === 'too far')
        return (this.trouble = malformed('a match reaches further back than the window', this.made));
      this.copy(step, out);
      taken = bits.at;
    }
    this.pending = input.slice(taken >> 3);
    this.taken = taken & 7;
    return Uint8Array.from(out);
  }

  /** Bits of the first pending octet that were read already. */
  private taken = 0;

  /** One octet or match; undefined, and the tree untouched, where the bits run out. */
  private next(bits: BitReader): number | { length: number; back: number } | 'too far' | undefined {
    const read = bits.read;
    const character = this.tree.read(read);
    if (character === undefined) return undefined;
    if (character < 256) {
      this.tree.count(character);
      return character;
    }
    const position = readPosition(read);
    if (position === undefined) return undefined;
    if (position >= WINDOW) return 'too far';
    this.tree.count(character);
    return { length: character - MATCH_BASE, back: position + 1 };
  }

  private copy(step: number | { length: number; back: number }, out: number[]): void {
    if (typeof step === 'number') return this.put(step, out);
    // A ring of the window's size: the place `back` before the next.
    for (let i = 0; i < step.length && this.made < this.total; i++)
      this.put(this.ring[(this.made - step.back) & (WINDOW - 1)] as number, out);
  }

  private put(octet: number, out: number[]): void {
    this.ring[this.made++ & (WINDOW - 1)] = octet;
    out.push(octet);
  }
}

class BitReader {
  constructor(
    private readonly octets: Uint8Array,
    public at: number,
  ) {}

  readonly read = (): 0 | 1 | undefined => {
    const octet = this.octets[this.at >> 3];
    if (octet === undefined) return undefined;
    return ((octet >> (7 - (this.at++ & 7))) & 1) as 0 | 1;
  };
}

/** All at once. Malformed where it ends before so many octets are there, or holds what cannot be. */
export function decompress(stream: Uint8Array, total: number): Uint8Array | Malformed {
  const decompressor = new Decompressor(total);
  const octets = decompressor.push(stream);
  if ('malformed' in octets) return octets;
  return decompressor.isWhole()
    ? octets
    : malformed(`the compressed text ends after ${octets.length} of ${total} octets`, stream.length);
}
