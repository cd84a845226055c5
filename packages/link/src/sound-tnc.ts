import {
  LBT_START,
  step,
  type LbtContext,
  type LbtEffect,
  type LbtEvent,
  type LbtState,
} from '@mistpeak/core/channel-access/listen-before-talk';
import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import { drive } from '@mistpeak/core/machine/drive';
import { Timetable } from '@mistpeak/core/network/timetable';
import { BasebandModulator } from '@mistpeak/core/modem/baseband/modulator';
import { Demodulator, type DecoderName, type DemodulatedFrame } from '@mistpeak/core/modem/demodulator';
import { AfskModulator, keyingTone, transmissionBits } from '@mistpeak/core/modem/modulator';
import { CarrierSense, type Busy } from '@mistpeak/core/modem/sensing/carrier-sense';
import { BELL_202, isBaseband, type Modulation } from '@mistpeak/core/modem/tones';

export interface SoundTncSettings {
  /** Of the samples, both ways. */
  readonly rateHz: number;
  readonly modulation?: Modulation;
  readonly decoder?: DecoderName;
  /** RMS of what is sent; a full-scale sine is 0 dBFS. twistDb: space above mark. */
  readonly levelDbfs: number;
  readonly twistDb?: number;
  /** A steady tone on a channel of its own holds the key. At least 10 kHz, below half the rate. */
  readonly keyingTone?: { readonly hz: number; readonly levelDbfs: number };
  /** Any sound above this level holds the channel too. On wish only: with an open squelch nothing is ever sent then. */
  readonly soundAboveDbfs?: number;
}

/** Who has the sound card and the key, and who reads the KISS. */
export interface SoundTncHost {
  /** KISS for the other side. */
  readonly octets: (octets: Uint8Array) => void;
  /** With what was measured; the same frame goes out as octets. */
  readonly heard?: (frame: DemodulatedFrame) => void;
  /** Each block that was listened to, by what the channel is held, and the frames that ended in it. */
  readonly listened?: (
    samples: Float32Array,
    busy: Busy | undefined,
    frames: readonly DemodulatedFrame[],
  ) => void;
  readonly key: (isDown: boolean) => void;
  readonly dice: () => number;
  /** A frame that was to be sent and is not. */
  readonly lost?: (raw: Uint8Array, reason: 'too many wait' | 'silenced') => void;
}

/** What goes out while a block comes in: the data, and the tone that holds the key. */
export interface SoundOut {
  readonly data: Float32Array;
  readonly tone: Float32Array;
}

export const LOWEST_KEYING_HZ = 10_000;
/** Both channels breathe in and out over this, so that the key does not click. */
const EDGE_MS = 5;

/**
 * A sound card as a KISS TNC: samples in and out on one side, KISS octets on the other. It has no clock but the samples that
 * pass: what it does depends on them and the dice alone. Half duplex: while it is keyed it does not listen.
 */
export class SoundTnc {
  private readonly clock = new Timetable(0);
  private readonly kiss = new KissDecoder();
  private demodulator: Demodulator;
  private readonly sense: CarrierSense;
  private readonly modulation: Modulation;
  private readonly machine;
  /** Samples of the over on the air, and how many of them are out. */
  private over: Float32Array | undefined;
  private played = 0;
  private tone: Float32Array | undefined;
  private wasHeld = false;
  /** So much was listened to, and so much of it before this decoder began. */
  private heardMs = 0;
  private decodedFromMs = 0;

  /** Throws RangeError when the rate does not carry the modulation or the keying tone. */
  constructor(
    private settings: SoundTncSettings,
    private readonly host: SoundTncHost,
  ) {
    const { rateHz, decoder, keyingTone: tone, soundAboveDbfs } = settings;
    this.modulation = settings.modulation ?? BELL_202;
    if (tone && !(tone.hz >= LOWEST_KEYING_HZ && tone.hz < rateHz / 2))
      throw new RangeError(
        `a keying tone lies between ${LOWEST_KEYING_HZ} Hz and half the sample rate, ${rateHz / 2} Hz`,
      );
    this.demodulator = new Demodulator(rateHz, decoder, this.modulation);
    this.sense = new CarrierSense(rateHz, {
      ...(isBaseband(this.modulation) ? {} : { tones: this.modulation }),
      ...(soundAboveDbfs === undefined ? {} : { soundAboveDbfs }),
    });
    this.machine = drive<LbtState, LbtEvent, LbtEffect, LbtContext>(step, LBT_START, {
      clock: this.clock,
      dice: host.dice,
      context: (moment) => ({ ...moment, airTimeMs: (raw) => airTimeMs(raw, this.modulation.baud) }),
      perform: (effect) => this.perform(effect),
    });
  }

  /** Octets of KISS from the other side, cut anywhere. */
  take(octets: Uint8Array): void {
    for (const item of this.kiss.push(octets)) {
      if ('discarded' in item || item.command === 'return' || item.command === 'sethardware') continue;
      // One modem, one port: what is for others is not ours.
      if (item.port !== 0) continue;
      if ('value' in item) this.machine.dispatch({ kind: 'parameter', parameter: item });
      else this.machine.dispatch({ kind: 'frame', raw: item.payload });
    }
  }

  /** One block: what came in, and as many samples to go out. */
  run(input: Float32Array): SoundOut {
    const out = { data: new Float32Array(input.length), tone: new Float32Array(input.length) };
    // What is keyed within this block begins with the next.
    const isKeyed = this.over !== undefined;
    if (!isKeyed || this.machine.state().access.isFullDuplex) this.listen(input);
    if (isKeyed) this.play(out);
    this.clock.advance((1000 * input.length) / this.settings.rateHz);
    return out;
  }

  /** By what the channel is held, as far as this TNC hears. */
  get busy(): Busy | undefined {
    const { busy, isQuiet } = this.sense;
    if (!isBaseband(this.modulation)) return busy;
    // Data without tones is told by its receiver, which in silence goes on with what it heard last.
    if (this.demodulator.hasCarrier && !isQuiet) return 'data';
    return busy === 'data' ? undefined : busy;
  }

  get isKeyed(): boolean {
    return this.machine.state().phase === 'keyed';
  }

  get waiting(): number {
    return this.machine.state().waiting.length;
  }

  /** Another decoder from now on; a frame that is just being heard is lost. */
  decodeBy(decoder: DecoderName): void {
    this.demodulator = new Demodulator(this.settings.rateHz, decoder, this.modulation);
    this.decodedFromMs = this.heardMs;
  }

  /** Of the overs that begin from now on. */
  sendAt(levelDbfs: number, twistDb = 0): void {
    this.settings = { ...this.settings, levelDbfs, twistDb };
  }

  /** Nothing more goes out; the key is up at once. */
  silence(): void {
    this.machine.dispatch({ kind: 'silence' });
  }

  private listen(input: Float32Array): void {
    this.sense.push(input);
    this.heardMs += (1000 * input.length) / this.settings.rateHz;
    const frames = this.demodulator
      .push(input)
      .map((frame) => ({ ...frame, atMs: frame.atMs + this.decodedFromMs }));
    for (const frame of frames) {
      this.host.heard?.(frame);
      this.host.octets(encodeKiss({ port: 0, command: 'data', payload: frame.raw }));
    }
    const { busy } = this;
    this.host.listened?.(input, busy, frames);
    const isHeld = busy !== undefined;
    if (isHeld === this.wasHeld) return;
    this.wasHeld = isHeld;
    this.machine.dispatch({ kind: 'channel', isHeld });
  }

  private perform(effect: Exclude<LbtEffect, { kind: 'start' | 'stop' }>): void {
    switch (effect.kind) {
      case 'key':
        return this.host.key(effect.isDown);
      case 'over': {
        const bits = this.bitsOf(effect.frames, effect.txDelayMs, effect.txTailMs);
        this.over = this.soundOf(bits);
        this.tone = this.toneOf(this.over.length);
        this.played = 0;
        return this.machine.dispatch({
          kind: 'begun',
          lastsMs: (1000 * this.over.length) / this.settings.rateHz,
        });
      }
      case 'break off':
        this.over = undefined;
        return;
      case 'lost':
        return this.host.lost?.(effect.raw, effect.reason);
    }
  }

  /** The over from where it is; at its end the machine is told. */
  private play({ data, tone }: SoundOut): void {
    const { over } = this;
    if (!over) return;
    const count = Math.min(over.length - this.played, data.length);
    data.set(over.subarray(this.played, this.played + count));
    if (this.tone) tone.set(this.tone.subarray(this.played, this.played + count));
    this.played += count;
    if (this.played < over.length) return;
    this.over = undefined;
    this.machine.dispatch({ kind: 'played' });
  }

  private toneOf(samples: number): Float32Array | undefined {
    const { keyingTone: wanted, rateHz } = this.settings;
    if (!wanted) return undefined;
    const edge = (EDGE_MS * rateHz) / 1000;
    return keyingTone(wanted.hz, samples, rateHz, wanted.levelDbfs).map(
      (sample, at) => sample * Math.min(1, (at + 1) / edge, (samples - at) / edge),
    );
  }

  private bitsOf(frames: readonly Uint8Array[], txDelayMs: number, txTailMs: number): Uint8Array {
    return transmissionBits(frames, this.modulation, { txDelayMs, txTailMs });
  }

  private soundOf(bits: Uint8Array): Float32Array {
    const { rateHz, levelDbfs, twistDb = 0 } = this.settings;
    const { modulation } = this;
    return isBaseband(modulation)
      ? new BasebandModulator({ rateHz, levelDbfs, modulation }).push(bits)
      : new AfskModulator({ rateHz, levelDbfs, tones: modulation, twistDb }).push(bits);
  }
}
