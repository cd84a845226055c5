/** The last sound of the working rate, for what is only asked when a frame is known. A ring; places count from the first sample. */
export class SoundPast {
  taken = 0;
  private readonly ring: Float32Array;
  private readonly mask: number;

  /** Keeps at least so many samples. */
  constructor(least: number) {
    this.ring = new Float32Array(2 ** Math.ceil(Math.log2(least)));
    this.mask = this.ring.length - 1;
  }

  push(samples: Float32Array, count: number): void {
    const { ring, mask } = this;
    for (let i = 0; i < count; i++) ring[this.taken++ & mask] = samples[i] as number;
  }

  /** From one place to another; what is gone or has not come is silence. */
  slice(from: number, to: number): Float32Array {
    const oldest = Math.max(0, this.taken - this.ring.length);
    return Float32Array.from({ length: Math.max(0, to - from) }, (_, i) => {
      const place = from + i;
      return place >= oldest && place < this.taken ? (this.ring[place & this.mask] as number) : 0;
    });
  }
}
