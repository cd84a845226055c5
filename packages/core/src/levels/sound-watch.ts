import type { DemodulatedFrame } from '../modem/demodulator.js';
import { SoundMeter } from '../modem/measuring/sound-meter.js';
import type { Busy } from '../modem/sensing/carrier-sense.js';
import { airTimeMs } from '../hdlc/air-time.js';
import { transmitterOf } from './transmitter.js';
import { HumMeter, type Hum } from './hum.js';
import { SpectrumMeter, type SpectrumShape } from './spectrum.js';

/** A packet as it sounded. transmitter: who was on the air, the last digipeater or the sender. Levels in dBFS (AES17). */
export interface HeardPacket {
  /** Of its end, since the first sample. */
  readonly atMs: number;
  readonly lastsMs: number;
  readonly raw: Uint8Array;
  readonly transmitter: string;
  readonly levelDbfs: number;
  readonly peakDbfs: number;
  readonly clippedShare: number;
  readonly repairs: number;
  readonly markDbfs?: number;
  readonly spaceDbfs?: number;
  readonly twistDb?: number;
  readonly preambleMs?: number;
  readonly ebN0Db?: number;
}

/** A twentieth of a second of sound. spectrum: dBFS of each line from 0 Hz on, as octets, 0 is -127. */
export interface Stretch {
  /** Of its end, since the first sample. */
  readonly atMs: number;
  readonly rmsDbfs: number;
  readonly peakDbfs: number;
  readonly offset: number;
  readonly clippedShare: number;
  readonly busy?: Busy;
  readonly spectrum: Uint8Array;
}

/** What was noticed since it was last taken. */
export interface SoundNews {
  readonly stretches: readonly Stretch[];
  readonly packets: readonly HeardPacket[];
  readonly hum: readonly Hum[];
}

export const STRETCH_MS = 50;
/** A frame is known up to so long after its end, and the longest one lasts some seconds: its sound is looked up. */
const KEPT_STRETCHES = 400;

/** Watches the sound that a modem hears: levels twenty times a second, spectrum, hum, and how each packet sounded. */
export class SoundWatch {
  readonly shape: SpectrumShape;
  private readonly meter: SoundMeter;
  private readonly spectrum: SpectrumMeter;
  private readonly hum: HumMeter;
  private readonly samples: number;
  private past: Stretch[] = [];
  private inStretch = 0;
  private taken = 0;
  private news = { stretches: [] as Stretch[], packets: [] as HeardPacket[] };

  constructor(
    private readonly rateHz: number,
    private readonly baud: number,
  ) {
    this.samples = Math.round((STRETCH_MS * rateHz) / 1000);
    this.meter = new SoundMeter(rateHz);
    this.spectrum = new SpectrumMeter(rateHz);
    this.shape = this.spectrum.shape;
    this.hum = new HumMeter(rateHz);
  }

  /** One block that the modem has heard, with what it says of it. */
  push(samples: Float32Array, busy: Busy | undefined, frames: readonly DemodulatedFrame[]): void {
    for (let at = 0; at < samples.length;) {
      const part = samples.subarray(at, at + this.samples - this.inStretch);
      this.meter.push(part);
      this.spectrum.push(part);
      this.hum.push(part);
      this.inStretch += part.length;
      this.taken += part.length;
      at += part.length;
      if (this.inStretch === this.samples) this.endStretch(busy);
    }
    for (const frame of frames) this.news.packets.push(this.packetOf(frame));
  }

  take(): SoundNews {
    const news = { ...this.news, hum: this.hum.take() };
    this.news = { stretches: [], packets: [] };
    return news;
  }

  private endStretch(busy: Busy | undefined): void {
    this.inStretch = 0;
    const { rmsDbfs, peakDbfs, offset, clippedShare } = this.meter.read() ?? SILENCE;
    const stretch: Stretch = {
      atMs: (1000 * this.taken) / this.rateHz,
      rmsDbfs,
      peakDbfs,
      offset,
      clippedShare,
      ...(busy && { busy }),
      spectrum: this.spectrum.read(),
    };
    this.news.stretches.push(stretch);
    this.past.push(stretch);
    if (this.past.length > KEPT_STRETCHES) this.past.shift();
  }

  private packetOf(frame: DemodulatedFrame): HeardPacket {
    const lastsMs = airTimeMs(frame.raw, this.baud);
    const { atMs } = frame;
    const within = this.past.filter((one) => one.atMs > atMs - lastsMs && one.atMs - STRETCH_MS < atMs);
    const clipped = within.reduce((sum, one) => sum + one.clippedShare, 0);
    const { raw, repairs, levelDbfs, markDbfs, spaceDbfs, twistDb, preambleMs, ebN0Db } = frame;
    return {
      atMs,
      lastsMs,
      raw,
      transmitter: transmitterOf(raw),
      levelDbfs,
      peakDbfs: Math.max(levelDbfs, ...within.map((one) => one.peakDbfs)),
      clippedShare: clipped / Math.max(1, within.length),
      repairs,
      ...(markDbfs !== undefined && { markDbfs }),
      ...(spaceDbfs !== undefined && { spaceDbfs }),
      ...(twistDb !== undefined && { twistDb }),
      ...(preambleMs !== undefined && { preambleMs }),
      ...(ebN0Db !== undefined && { ebN0Db }),
    };
  }
}

const SILENCE = { rmsDbfs: -200, peakDbfs: -200, offset: 0, clippedShare: 0 };
