import type { ChildProcess } from 'node:child_process';
import type { Clock } from '@mistpeak/link/clock';
import { LinkFailed } from '@mistpeak/link/failure';
import { BLOCKS_A_SECOND, REPORT_EVERY_BLOCKS, stereo } from '@mistpeak/link/sound-setup';
import { WatchedTnc, type SoundReport } from '@mistpeak/link/watched-tnc';
import { oneChannel } from '@mistpeak/core/wav/one-channel';
import { BUFFER_MS, failureOfAlsa, FRAME_OCTETS } from './alsa.js';
import type { SoundCardSettings } from './sound-messages.js';

/** The key of the radio, in a process of its own. */
export interface Key {
  down(limitMs: number): void;
  up(): void;
  close(): void;
}

export interface CardRunHost {
  readonly clock: Pick<Clock, 'after' | 'upMs'>;
  readonly dice: () => number;
  readonly recorder: ChildProcess;
  /** Absent: nothing is played. */
  readonly player?: ChildProcess | undefined;
  readonly key?: Key | undefined;
  opened(): void;
  octets(octets: Uint8Array): void;
  report(report: SoundReport): void;
  failed(failure: LinkFailed): void;
}

/** A card that gives nothing for so long has gone, or its disk or machine stands still. */
const SILENT_MS = 3000;
/** What may wait for the player: more, and it stands still. */
const MOST_WAITING_MS = 1500;
/** In silence no more waits than keeps the player from running dry. */
const ENOUGH_WAITING_MS = 100;
/**
 * In silence one block of so many is left out: two cards have two clocks, and what piles up in the pipe to the player would
 * make every over late, and the key go up before its end.
 */
const DRAINED_EVERY = 50;
/** The key may be held so long; each block of an over says so anew. */
const HELD_MS = 1000;

/** A sound card in operation: what is recorded goes through the modem, what the modem makes is played, the key goes with it. */
export class CardRun {
  private readonly tnc: WatchedTnc;
  private rest = Buffer.alloc(0);
  private blocks = 0;
  private isOpen = false;
  private hasEnded = false;
  private wasKeyed = false;
  private stopWatching: (() => void) | undefined;
  private letGo: (() => void) | undefined;

  constructor(
    private readonly settings: SoundCardSettings,
    private readonly host: CardRunHost,
  ) {
    this.tnc = new WatchedTnc(settings.tnc, {
      octets: (octets) => host.octets(octets),
      dice: host.dice,
      key: (isDown) => this.key(isDown),
    });
    this.follow(host.recorder);
    if (host.player) this.follow(host.player);
    host.recorder.stdout?.on('data', (octets: Buffer) => this.take(octets));
    host.player?.stdin?.on('error', () => undefined);
    this.watch();
  }

  /** KISS octets from the link. */
  send(octets: Uint8Array): void {
    this.tnc.take(octets);
  }

  /** Of the overs that begin from now on. */
  sendAt(levelDbfs: number): void {
    this.tnc.sendAt(levelDbfs, this.settings.tnc.twistDb);
  }

  /** The key is up before anything else ends. */
  end(): void {
    if (this.hasEnded) return;
    this.hasEnded = true;
    this.stopWatching?.();
    this.letGo?.();
    this.host.key?.up();
    this.host.key?.close();
    this.host.recorder.kill();
    this.host.player?.stdin?.destroy();
    this.host.player?.kill();
  }

  fail(failure: LinkFailed): void {
    if (this.hasEnded) return;
    this.end();
    this.host.failed(failure);
  }

  private follow(child: ChildProcess): void {
    let words = '';
    child.stderr?.on('data', (part: Buffer) => (words = (words + part.toString()).slice(-2000)));
    child.once('error', (error: NodeJS.ErrnoException) =>
      this.fail(new LinkFailed(error.code === 'ENOENT' ? 'no-alsa' : 'no-sound', error.message)),
    );
    child.once('close', () => this.fail(failureOfAlsa(words, this.isOpen)));
  }

  private watch(): void {
    this.stopWatching?.();
    this.stopWatching = this.host.clock.after(SILENT_MS, () =>
      this.fail(new LinkFailed(this.isOpen ? 'sound-gone' : 'no-sound', 'no samples came')),
    );
  }

  private take(octets: Buffer): void {
    if (this.hasEnded) return;
    this.watch();
    if (!this.isOpen) {
      this.isOpen = true;
      this.host.opened();
    }
    const all = this.rest.length === 0 ? octets : Buffer.concat([this.rest, octets]);
    const size = FRAME_OCTETS * Math.round(this.settings.tnc.rateHz / BLOCKS_A_SECOND);
    let at = 0;
    for (; at + size <= all.length && !this.hasEnded; at += size) this.block(all.subarray(at, at + size));
    this.rest = Buffer.from(all.subarray(at));
  }

  private block(octets: Buffer): void {
    const { hears } = this.settings;
    const both = Float32Array.from(
      { length: octets.length / 2 },
      (_, i) => octets.readInt16LE(2 * i) / 32_768,
    );
    const { data, tone } = this.tnc.run(oneChannel(both, 2, hears));
    const { isKeyed } = this.tnc;
    if (isKeyed) this.host.key?.down(HELD_MS);
    this.play(data, tone, isKeyed || this.wasKeyed);
    this.wasKeyed = isKeyed;
    if (++this.blocks % REPORT_EVERY_BLOCKS === 0) this.host.report(this.tnc.report());
  }

  private play(data: Float32Array, tone: Float32Array, isOver: boolean): void {
    const stream = this.host.player?.stdin;
    if (!stream) return;
    const waitingMs = (1000 * stream.writableLength) / (FRAME_OCTETS * this.settings.tnc.rateHz);
    if (waitingMs > MOST_WAITING_MS) return this.fail(new LinkFailed('sound-stuck'));
    if (!isOver && (waitingMs > ENOUGH_WAITING_MS || this.blocks % DRAINED_EVERY === 0)) return;
    const [left, right] = stereo(this.settings.sendsOn, data, tone);
    const octets = Buffer.alloc(FRAME_OCTETS * data.length);
    for (let i = 0; i < data.length; i++) {
      octets.writeInt16LE(sixteen(left[i] as number), FRAME_OCTETS * i);
      octets.writeInt16LE(sixteen(right[i] as number), FRAME_OCTETS * i + 2);
    }
    stream.write(octets);
  }

  /** The key goes up only when the last sample has left the buffers. */
  private key(isDown: boolean): void {
    this.letGo?.();
    this.letGo = undefined;
    if (isDown) this.host.key?.down(HELD_MS);
    else this.letGo = this.host.clock.after(BUFFER_MS, () => this.host.key?.up());
  }
}

const sixteen = (sample: number): number => Math.max(-32_768, Math.min(32_767, Math.round(32_767 * sample)));
