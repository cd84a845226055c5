import { execFileSync } from 'node:child_process';
import {
  closeSync,
  constants,
  mkdtempSync,
  openSync,
  readSync,
  rmSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export const AIR_HZ = 22_050;
const FRAME_OCTETS = 4;
const BLOCK_MS = 20;
const BLOCK = FRAME_OCTETS * Math.round((AIR_HZ * BLOCK_MS) / 1000);

/**
 * Sound cards of ALSA without a device: names whose samples go through FIFOs (its file plugin over null). What one plays, all
 * others record, at the pace of real time, with a little hiss.
 */
export class SoundAir {
  readonly folder = mkdtempSync(join(tmpdir(), 'mistpeak-air-'));
  private readonly cards: readonly { readonly from: number; readonly to: number }[];
  private readonly timer: NodeJS.Timeout;
  private readonly begunMs = performance.now();
  private blocks = 0;
  /** What is put on the air besides, left and right in turn. */
  private besides: Int16Array = new Int16Array(0);

  constructor(names: readonly string[]) {
    const text = names.map(
      (name) => `
pcm.${name}_in { type file slave.pcm null file /dev/null infile ${this.fifo(`${name}_in`)} format raw hint { show on } }
pcm.${name}_out { type file slave.pcm null file ${this.fifo(`${name}_out`)} format raw hint { show on } }`,
    );
    writeFileSync(this.configuration, `pcm.null { type null }${text.join('')}\n`);
    for (const name of names) execFileSync('mkfifo', [this.fifo(`${name}_in`), this.fifo(`${name}_out`)]);
    this.cards = names.map((name) => ({
      from: openSync(this.fifo(`${name}_out`), constants.O_RDWR | constants.O_NONBLOCK),
      to: openSync(this.fifo(`${name}_in`), constants.O_RDWR | constants.O_NONBLOCK),
    }));
    this.timer = setInterval(() => this.catchUp(), BLOCK_MS / 2);
  }

  /** For ALSA_CONFIG_PATH. */
  get configuration(): string {
    return join(this.folder, 'asound.conf');
  }

  /** Everybody hears it. */
  put(sound: Float32Array): void {
    this.besides = Int16Array.from(
      { length: 2 * sound.length },
      (_, i) => 32_767 * (sound[i >> 1] as number),
    );
  }

  end(): void {
    clearInterval(this.timer);
    for (const { from, to } of this.cards) for (const file of [from, to]) closeSync(file);
    rmSync(this.folder, { recursive: true });
  }

  private fifo(name: string): string {
    return join(this.folder, name);
  }

  private catchUp(): void {
    const due = (performance.now() - this.begunMs) / BLOCK_MS;
    for (; this.blocks < due; this.blocks++) this.block();
  }

  private block(): void {
    const sent = this.cards.map(({ from }) => read(from));
    const besides = this.besides.subarray(0, BLOCK / 2);
    this.besides = this.besides.subarray(besides.length);
    this.cards.forEach(({ to }, i) => {
      const heard = new Int16Array(BLOCK / 2).map(() => 60 * (Math.random() - 0.5));
      sent.forEach((samples, from) => {
        if (from !== i) samples.forEach((sample, at) => (heard[at] = (heard[at] as number) + sample));
      });
      besides.forEach((sample, at) => (heard[at] = (heard[at] as number) + sample));
      write(to, Buffer.from(heard.buffer));
    });
  }
}

function read(file: number): Int16Array {
  const octets = Buffer.alloc(BLOCK);
  try {
    const count = readSync(file, octets, 0, BLOCK, null);
    return new Int16Array(octets.buffer, octets.byteOffset, count >> 1);
  } catch {
    // Nothing is played just now (EAGAIN).
    return new Int16Array(0);
  }
}

function write(file: number, octets: Buffer): void {
  try {
    writeSync(file, octets);
  } catch {
    // Nobody records, and the pipe is full.
  }
}
