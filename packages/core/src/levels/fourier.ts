/**
 * Discrete Fourier transform of a power of two (Cooley and Tukey 1965), in place; tables once for each length. Throws RangeError
 * for other lengths.
 */
export class Fourier {
  private readonly cos: Float64Array;
  private readonly sin: Float64Array;

  constructor(readonly length: number) {
    if (length < 2 || (length & (length - 1)) !== 0) throw new RangeError('the length is a power of two');
    this.cos = Float64Array.from({ length: length / 2 }, (_, i) => Math.cos((2 * Math.PI * i) / length));
    this.sin = Float64Array.from({ length: length / 2 }, (_, i) => Math.sin((2 * Math.PI * i) / length));
  }

  transform(re: Float64Array, im: Float64Array): void {
    const { length } = this;
    for (let i = 1, j = 0; i < length; i++) {
      let bit = length >> 1;
      for (; j & bit; bit >>= 1) j ^= bit;
      j ^= bit;
      if (i >= j) continue;
      [re[i], re[j]] = [re[j] as number, re[i] as number];
      [im[i], im[j]] = [im[j] as number, im[i] as number];
    }
    for (let half = 1; half < length; half *= 2) this.butterflies(re, im, half);
  }

  private butterflies(re: Float64Array, im: Float64Array, half: number): void {
    const step = this.length / (2 * half);
    for (let from = 0; from < this.length; from += 2 * half)
      for (let i = 0; i < half; i++) {
        const [c, s] = [this.cos[i * step] as number, this.sin[i * step] as number];
        const [upper, lower] = [from + i, from + i + half];
        const x = (re[lower] as number) * c + (im[lower] as number) * s;
        const y = (im[lower] as number) * c - (re[lower] as number) * s;
        re[lower] = (re[upper] as number) - x;
        im[lower] = (im[upper] as number) - y;
        re[upper] = (re[upper] as number) + x;
        im[upper] = (im[upper] as number) + y;
      }
  }
}
