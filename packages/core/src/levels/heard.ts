import { dbfsOf, type SpectrumShape } from './spectrum.js';
import { STRETCH_MS, type HeardPacket, type SoundNews, type Stretch } from './sound-watch.js';
import { OutstandingLines, type SteadyTone } from './steady-tones.js';

/** What was heard in a while, as far as a verdict needs it. Levels in dBFS (AES17); shares 0 to 1. */
export interface Heard {
  readonly seconds: number;
  readonly packets: readonly HeardPacket[];
  /** Stretches of packet tones that ended; unread: those in which no packet was decoded. */
  readonly carriers: number;
  readonly unread: number;
  /** Of the time: nothing at all came in. */
  readonly quietShare: number;
  readonly voiceShare: number;
  /** RMS in the middle, of what is neither packet nor voice nor silence; undefined: there was none. */
  readonly noiseDbfs?: number;
  readonly peakDbfs: number;
  readonly clippedShare: number;
  /** DC, share of full scale. */
  readonly offset: number;
  readonly humDbfs?: number;
  readonly humHz?: 50 | 60;
  readonly tones: readonly SteadyTone[];
  /** Short pure sounds that are no packet. */
  readonly bells: number;
  /** The noise at 2200 Hz over that at 1200 Hz; undefined: too little noise. */
  readonly noiseTiltDb?: number;
}

/** Below, nothing at all comes in: the noise of a 16-bit card lies at -90 and lower. */
export const QUIET_DBFS = -70;
/** A carrier is data that lasts so long: the shortest packet has 20 octets and some preamble. */
const LEAST_CARRIER_MS = 150;
/** A packet is known at the latest so long after its carrier ended. */
const KNOWN_AFTER_MS = 600;
/** Hum is what hums more than half of the time. */
const HUMS_SHARE = 0.5;
/** Vowels have tones too: what a voice is so near to is no carrier. */
const VOICE_NEAR_MS = 500;
const LEAST_NOISE = 60;
const SAME_TONE_HZ = 60;
const TILT_HZ = { mark: 1200, space: 2200, beside: 150 } as const;
/** A bell: so many stretches in a row of one or two pure tones. */
const BELL = { least: 3, most: 40, share: 0.9, from: 300 } as const;

interface Carrier {
  readonly fromMs: number;
  readonly toMs: number;
}

/** Gathers what a verdict needs, from the news of a watch. */
export class Gathering {
  private readonly packets: HeardPacket[] = [];
  private readonly carriers: Carrier[] = [];
  private readonly levels: number[] = [];
  private readonly noise: number[] = [];
  private readonly free: OutstandingLines;
  private readonly withPackets: OutstandingLines;
  private readonly tilt = { mark: 0, space: 0, count: 0 };
  private readonly hums: { mainsHz: 50 | 60; dbfs: number }[] = [];
  private seconds = 0;
  private readonly voicesAtMs: number[] = [];
  private quiets = 0;
  private clipped = 0;
  private offsets = 0;
  private peak = -Infinity;
  private bells = 0;
  private pureInRow = 0;
  private carrierFromMs: number | undefined;
  private lastMs = 0;

  constructor(private readonly shape: SpectrumShape) {
    this.free = new OutstandingLines(shape);
    this.withPackets = new OutstandingLines(shape);
  }

  take({ stretches, packets, hum }: SoundNews): void {
    this.packets.push(...packets);
    this.hums.push(...hum);
    this.seconds += (stretches.length * STRETCH_MS) / 1000;
    for (const stretch of stretches) this.stretch(stretch);
  }

  /** How much there is so far: cheap to ask, again and again. */
  get progress(): { readonly seconds: number; readonly packets: number } {
    return { seconds: this.seconds, packets: this.packets.length };
  }

  get heard(): Heard {
    const count = this.levels.length;
    const share = (some: number): number => some / Math.max(1, count);
    const ended = this.carriers.filter((one) => this.isKnown(one) && !this.isInVoice(one));
    const noise = median(this.noise);
    const [hum] = this.hums;
    const isHumming = this.hums.length > this.seconds * HUMS_SHARE;
    return {
      seconds: this.seconds,
      packets: this.packets,
      carriers: ended.length,
      unread: ended.filter((one) => !this.isRead(one)).length,
      quietShare: share(this.quiets),
      voiceShare: share(this.voicesAtMs.length),
      ...(noise !== undefined && { noiseDbfs: noise }),
      peakDbfs: this.peak,
      clippedShare: share(this.clipped),
      offset: share(this.offsets),
      ...(hum &&
        isHumming && { humHz: hum.mainsHz, humDbfs: median(this.hums.map(({ dbfs }) => dbfs)) as number }),
      tones: this.tones(),
      bells: this.bells,
      ...(this.tilt.count >= LEAST_NOISE && {
        noiseTiltDb: 10 * Math.log10(this.tilt.space / this.tilt.mark),
      }),
    };
  }

  private tones(): SteadyTone[] {
    const always = this.free.steady().map((tone) => ({ ...tone, when: 'always' as const }));
    const besides = this.withPackets
      .steadyBesideData()
      .filter(({ hz }) => !always.some((tone) => Math.abs(tone.hz - hz) < SAME_TONE_HZ))
      // Who never heard the channel free cannot say that the tone goes with the packets.
      .map((tone) => ({
        ...tone,
        when: this.free.hasLooked ? ('with packets' as const) : ('always' as const),
      }));
    return [...always, ...besides];
  }

  private isKnown(carrier: Carrier): boolean {
    return this.lastMs - carrier.toMs >= KNOWN_AFTER_MS || this.isRead(carrier);
  }

  private isRead({ fromMs, toMs }: Carrier): boolean {
    return this.packets.some(({ atMs }) => atMs > fromMs && atMs < toMs + KNOWN_AFTER_MS);
  }

  private isInVoice({ fromMs, toMs }: Carrier): boolean {
    return this.voicesAtMs.some((atMs) => atMs > fromMs - VOICE_NEAR_MS && atMs < toMs + VOICE_NEAR_MS);
  }

  private stretch(stretch: Stretch): void {
    const { atMs, rmsDbfs, busy, offset, clippedShare, peakDbfs, spectrum } = stretch;
    this.lastMs = atMs;
    this.levels.push(rmsDbfs);
    this.offsets += offset;
    this.clipped += clippedShare;
    this.peak = Math.max(this.peak, peakDbfs);
    this.carrier(busy === 'data', atMs);
    const isQuiet = rmsDbfs < QUIET_DBFS;
    if (isQuiet) this.quiets++;
    if (busy === 'voice') this.voicesAtMs.push(atMs);
    // A tone has a pitch, as a voice has.
    this.bell(!isQuiet && busy !== 'data' && this.isPure(spectrum));
    if (isQuiet) return;
    if (busy === 'data') return this.withPackets.take(spectrum);
    this.free.take(spectrum);
    if (busy === 'voice') return;
    this.noise.push(rmsDbfs);
    this.tilt.mark += this.powerAt(spectrum, TILT_HZ.mark);
    this.tilt.space += this.powerAt(spectrum, TILT_HZ.space);
    this.tilt.count++;
  }

  private carrier(isData: boolean, atMs: number): void {
    if (isData) this.carrierFromMs ??= atMs - STRETCH_MS;
    else if (this.carrierFromMs !== undefined) {
      const carrier = { fromMs: this.carrierFromMs, toMs: atMs - STRETCH_MS };
      if (carrier.toMs - carrier.fromMs >= LEAST_CARRIER_MS) this.carriers.push(carrier);
      this.carrierFromMs = undefined;
    }
  }

  private bell(isPure: boolean): void {
    if (isPure) this.pureInRow++;
    else {
      if (this.pureInRow >= BELL.least && this.pureInRow <= BELL.most) this.bells++;
      this.pureInRow = 0;
    }
  }

  /** One or two tones hold most of the power. */
  private isPure(spectrum: Uint8Array): boolean {
    const from = Math.ceil(BELL.from / this.shape.binHz);
    const powers = Array.from(spectrum, (line, i) => (i < from ? 0 : 10 ** (dbfsOf(line) / 10)));
    const all = powers.reduce((sum, one) => sum + one, 0);
    let held = 0;
    for (let tone = 0; tone < 2; tone++) {
      const top = powers.indexOf(Math.max(...powers));
      // A pure tone is three lines wide behind the window.
      for (let i = Math.max(0, top - 2); i <= Math.min(powers.length - 1, top + 2); i++) {
        held += powers[i] as number;
        powers[i] = 0;
      }
    }
    return held > BELL.share * all;
  }

  private powerAt(spectrum: Uint8Array, hz: number): number {
    const { binHz } = this.shape;
    let sum = 0;
    for (let i = Math.ceil((hz - TILT_HZ.beside) / binHz); i <= (hz + TILT_HZ.beside) / binHz; i++)
      sum += 10 ** (dbfsOf(spectrum[i] as number) / 10);
    return sum;
  }
}

export function median(values: readonly number[]): number | undefined {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length / 2;
  if (sorted.length === 0) return undefined;
  return Number.isInteger(middle)
    ? ((sorted[middle - 1] as number) + (sorted[middle] as number)) / 2
    : sorted[Math.floor(middle)];
}
