import { BLOCKS_A_SECOND } from '@mistpeak/link/sound-setup';
import { PlayQueue, type PlayBlock } from './play-queue';

/** What the page tells the worklet: the port to the worker, once; and that nothing more is to be played. */
export type ToSoundPort = { readonly port: MessagePort } | { readonly clear: true };

/** So many blocks wait before an over begins. */
const LEAD_BLOCKS = 4;

/** Between the sound card and the modem: blocks to the worker, what it makes to the output. */
class SoundPort extends AudioWorkletProcessor {
  private readonly length = Math.round(sampleRate / BLOCKS_A_SECOND);
  private readonly queue = new PlayQueue(LEAD_BLOCKS * this.length);
  private block = new Float32Array(this.length);
  private filled = 0;
  private worker: MessagePort | undefined;
  /** Which channel is heard: 0 left, 1 right, -1 both. */
  private readonly channel: number;

  constructor(options: { readonly processorOptions: { readonly channel: number } }) {
    super();
    this.channel = options.processorOptions.channel;
    this.port.onmessage = ({ data }: MessageEvent<ToSoundPort>) => {
      if ('clear' in data) return this.queue.clear();
      this.worker = data.port;
      this.worker.onmessage = ({ data: block }: MessageEvent<PlayBlock>) => this.queue.push(block);
    };
  }

  process([input]: Float32Array[][], [output]: Float32Array[][]): boolean {
    const heard = this.heardOf(input ?? []);
    if (heard) this.take(heard);
    const [left, right] = output ?? [];
    if (left && right) this.queue.pull(left, right);
    return true;
  }

  private heardOf(channels: readonly Float32Array[]): Float32Array | undefined {
    const [left, right = left] = channels;
    if (!left || !right || this.channel === 0) return left;
    return this.channel === 1 ? right : left.map((sample, i) => (sample + (right[i] as number)) / 2);
  }

  private take(samples: Float32Array): void {
    for (let at = 0; at < samples.length;) {
      const part = samples.subarray(at, at + this.length - this.filled);
      this.block.set(part, this.filled);
      this.filled += part.length;
      at += part.length;
      if (this.filled < this.length) continue;
      this.worker?.postMessage(this.block, [this.block.buffer]);
      this.block = new Float32Array(this.length);
      this.filled = 0;
    }
  }
}

registerProcessor('sound-port', SoundPort);
