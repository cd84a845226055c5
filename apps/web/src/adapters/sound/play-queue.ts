/** One block of both channels; last: the over ends with it. */
export interface PlayBlock {
  readonly left: Float32Array;
  readonly right: Float32Array;
  readonly isLast: boolean;
}

/**
 * What is to be played, from a worker that makes it a little unevenly. An over begins when so much of it waits that it will not
 * run dry, or when all of it is there: a gap in mid-packet would spoil it.
 */
export class PlayQueue {
  private waiting: PlayBlock[] = [];
  private at = 0;
  private isPlaying = false;
  /** Samples that were missing in mid-over. */
  gaps = 0;

  /** leadSamples: what waits at least before an over begins. */
  constructor(private readonly leadSamples: number) {}

  push(block: PlayBlock): void {
    this.waiting.push(block);
    const samples = this.waiting.reduce((sum, { left }) => sum + left.length, 0);
    if (block.isLast || samples >= this.leadSamples) this.isPlaying = true;
  }

  clear(): void {
    this.waiting = [];
    this.at = 0;
    this.isPlaying = false;
  }

  /** Fills both, with silence where there is nothing. */
  pull(left: Float32Array, right: Float32Array): void {
    let done = 0;
    while (this.isPlaying && done < left.length) {
      const block = this.waiting[0];
      if (!block) {
        this.gaps += left.length - done;
        break;
      }
      const count = Math.min(block.left.length - this.at, left.length - done);
      left.set(block.left.subarray(this.at, this.at + count), done);
      right.set(block.right.subarray(this.at, this.at + count), done);
      this.at += count;
      done += count;
      if (this.at < block.left.length) continue;
      this.at = 0;
      this.waiting.shift();
      if (block.isLast) this.isPlaying = this.waiting.length > 0;
    }
    left.fill(0, done);
    right.fill(0, done);
  }
}
