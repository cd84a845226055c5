import { SURER } from './bit-tones.js';

/** Looked up once: called for each bit. */
const { cos, sin, atan2, sqrt } = Math;

/** Bits on either side over which the offset is refined. */
export const REFINED_REACH = 96;
/** Bits between those that are compared: far apart, so that noise turns them little for each bit between. */
const LAG = 16;
/** Bits that are kept; a power of two, more than three times the reach. */
const RING = 512;
const MASK = RING - 1;

/**
 * The offset of the tones, from what the first search found: with the found tones taken off, all bits are one slowly turning
 * pointer, so that bits far apart can be compared. Neighbours, which is all that can be compared before, tell the offset ten
 * times worse. Windows before, around and after the bit in question; the one whose pointers agree best.
 */
export class OffsetRefinement {
  private count = 0;
  private readonly pointers = new Float64Array(2 * RING);
  /** Products of bits LAG apart, re and im, and their size, at the later one. */
  private readonly products = new Float64Array(3 * RING);
  private base = 0;
  /** How well the pointers of the best window agree: near 1 for a clear signal, about 0 for noise. */
  coherence = 0;
  private readonly before = new ProductSums(REFINED_REACH);
  private readonly around = new ProductSums(2 * REFINED_REACH - LAG);
  private readonly after = new ProductSums(REFINED_REACH - LAG);

  /** The next bit: its tones from an index on, the found one, the turn of a mark to it, and where its phase began, in turns. */
  add(tones: Float64Array, index: number, tone: number, markTurn: number, place: number): void {
    const at = this.count & MASK;
    this.base = (this.base + markTurn) % (2 * Math.PI);
    const angle = this.base + 2 * Math.PI * place;
    const [c, d] = [cos(angle), sin(angle)];
    const re = tones[index + (tone ? 0 : 2)] as number;
    const im = tones[index + (tone ? 1 : 3)] as number;
    const [x, y] = [re * c + im * d, im * c - re * d];
    this.pointers[2 * at] = x;
    this.pointers[2 * at + 1] = y;
    const then = 2 * ((this.count - LAG) & MASK);
    const [u, v] = [this.pointers[then] as number, this.pointers[then + 1] as number];
    // Each counts by its angle alone: a loud station must not drown a weak one beside it.
    const size = sqrt((x * x + y * y) * (u * u + v * v));
    this.products[3 * at] = size > 0 ? (x * u + y * v) / size : 0;
    this.products[3 * at + 1] = size > 0 ? (y * u - x * v) / size : 0;
    this.products[3 * at + 2] = size > 0 ? 1 : 0;
    const newest = this.count++;
    this.after.slide(this.products, newest);
    this.around.slide(this.products, newest);
    this.before.slide(this.products, newest - REFINED_REACH);
  }

  /** Turn in a bit, for the bit REFINED_REACH before the newest; coarse: what is known of it. */
  offset(coarse: number): number {
    let best = this.around;
    this.coherence = best.coherence();
    for (const one of [this.before, this.after]) {
      const coherence = one.coherence();
      if (coherence <= SURER * this.coherence) continue;
      best = one;
      this.coherence = coherence;
    }
    const [c, d] = [cos(coarse * LAG), sin(coarse * LAG)];
    return coarse + atan2(best.im * c - best.re * d, best.re * c + best.im * d) / LAG;
  }
}

class ProductSums {
  re = 0;
  im = 0;
  private size = 0;

  private readonly byChance: number;

  /** length: products in the window. */
  constructor(private readonly length: number) {
    this.byChance = 1 / sqrt(length);
  }

  slide(products: Float64Array, newest: number): void {
    const entering = 3 * (newest & MASK);
    const leaving = 3 * ((newest - this.length) & MASK);
    this.re += (products[entering] as number) - (products[leaving] as number);
    this.im += (products[entering + 1] as number) - (products[leaving + 1] as number);
    this.size += (products[entering + 2] as number) - (products[leaving + 2] as number);
  }

  /** 1 where all agree; what chance makes of so many is taken off. */
  coherence(): number {
    return this.size > 0 ? sqrt(this.re * this.re + this.im * this.im) / this.size - this.byChance : 0;
  }
}
