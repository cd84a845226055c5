import { Emphasis } from '../emphasis.js';
import { BELL_202 } from '../tones.js';
import { addOffset, addTone, clip, offClock, offTune } from './faults.js';
import { FmChannel } from './fm-channel.js';
import { addNoise, noiseDeviation } from './noise.js';
import { joined, transmission, type Sending } from './track.js';

/** Frames as they are heard under one kind of bad luck, one transmission after the other; all from a seed. */
export interface Condition {
  readonly name: string;
  readonly rateHz: number;
  /** The sound of each transmission; frames of the same transmission are given together. */
  sounds(frames: readonly Uint8Array[], dice: () => number): Iterable<Float32Array>;
}

const LEVEL_DBFS = -12;
/** Of the tones at that level, twist apart. */
const POWER = 10 ** (LEVEL_DBFS / 10) / 2;
const AMPLITUDE = 10 ** (LEVEL_DBFS / 20);

const deviationOf = (ebN0Db: number, rateHz: number, power = POWER): number =>
  noiseDeviation(power, { ebN0Db, baud: BELL_202.baud, rateHz });

/** Each frame a transmission in white noise; more: what each is sent with. */
export function inWhiteNoise(
  name: string,
  rateHz: number,
  ebN0Db: number,
  more: (i: number, dice: () => number) => Partial<Sending> = () => ({}),
): Condition {
  return {
    name,
    rateHz,
    *sounds(frames, dice) {
      for (const [i, frame] of frames.entries()) {
        const sending = more(i, dice);
        const sound = transmission([frame], { rateHz, levelDbfs: LEVEL_DBFS, ...sending });
        // Of two tones apart in level, the mean.
        const power = (POWER * (1 + 10 ** (-Math.abs(sending.twistDb ?? 0) / 10))) / 2;
        addNoise(sound, deviationOf(ebN0Db, rateHz, power), dice);
        yield sound;
      }
    },
  };
}

/** Through FM of 3 kHz deviation, transmitters in turn flat and with pre-emphasis. cnrDb: in an IF of 15 kHz. */
export function throughFm(cnrDb: number, deEmphasis: boolean): Condition {
  const rateHz = 48_000;
  return {
    name: `FM, ${deEmphasis ? 'de-emphasised' : 'flat'}, CNR ${cnrDb} dB`,
    rateHz,
    *sounds(frames, dice) {
      const channel = new FmChannel({ rateHz, cnrDb, deEmphasis, dice });
      const emphasis = new Emphasis(rateHz, 'pre');
      for (const [i, frame] of frames.entries()) {
        const sent = transmission([frame], { rateHz, levelDbfs: 0, pauseMs: 200 });
        if (i % 2 === 1) preEmphasised(sent, emphasis);
        yield channel.push(sent).map((sample) => AMPLITUDE * sample);
      }
    },
  };
}

/** The stronger tone keeps its deviation; a transmitter limits what is above it. */
function preEmphasised(sound: Float32Array, emphasis: Emphasis): void {
  emphasis.push(sound, sound);
  const loudest = emphasis.gainAt(BELL_202.spaceHz);
  for (let i = 0; i < sound.length; i++) sound[i] = Math.max(-1, Math.min(1, (sound[i] as number) / loudest));
}

/** Everything at once, moderately, each time otherwise: twist, clocks, tuning, hum, offset, a whistle, a clipped crest. */
export function mixed(rateHz: number, ebN0Db: number): Condition {
  return {
    name: `all faults at once, ${ebN0Db} dB`,
    rateHz,
    *sounds(frames, dice) {
      const about = (most: number): number => most * (2 * dice() - 1);
      for (const frame of frames) {
        const tones = offTune(offClock(BELL_202, about(200)), about(50));
        const sound = transmission([frame], { rateHz, levelDbfs: LEVEL_DBFS, tones, twistDb: about(6) });
        addTone(sound, rateHz, dice() < 0.5 ? 50 : 100, 0.3 * AMPLITUDE * dice());
        addTone(sound, rateHz, dice() < 0.5 ? 600 : 2900, 0.1 * AMPLITUDE);
        clip(sound, AMPLITUDE * (0.6 + 0.4 * dice()));
        addOffset(sound, about(0.1));
        addNoise(sound, deviationOf(ebN0Db, rateHz), dice);
        yield sound;
      }
    },
  };
}

/** Five frames in each transmission, one flag between them. */
export function backToBack(rateHz: number, ebN0Db: number): Condition {
  return {
    name: `back to back, ${ebN0Db} dB`,
    rateHz,
    *sounds(frames, dice) {
      for (let at = 0; at < frames.length; at += 5) {
        const sound = transmission(frames.slice(at, at + 5), { rateHz, levelDbfs: LEVEL_DBFS });
        addNoise(sound, deviationOf(ebN0Db, rateHz), dice);
        yield sound;
      }
    },
  };
}

/** A loud station and a weak one in turn, one right after the other; ebN0Db: of the weak one. */
export function unlikeLevels(rateHz: number, ebN0Db: number, apartDb: number): Condition {
  return {
    name: `${apartDb} dB apart, ${ebN0Db} dB`,
    rateHz,
    *sounds(frames, dice) {
      for (const [i, frame] of frames.entries()) {
        const levelDbfs = LEVEL_DBFS - (i % 2 === 0 ? 0 : apartDb);
        const sound = transmission([frame], { rateHz, levelDbfs, txDelayMs: 100, pauseMs: 5 + dice() });
        addNoise(sound, deviationOf(ebN0Db, rateHz, POWER * 10 ** (-apartDb / 10)), dice);
        yield sound;
      }
    },
  };
}

/** Hiss of an open squelch, louder than the station, up to where so many bits of its preamble are left. */
export function cutPreambles(rateHz: number, bits: number): Condition {
  return {
    name: `preambles of ${bits} bits after hiss`,
    rateHz,
    *sounds(frames, dice) {
      for (const frame of frames) {
        const hiss = new Float32Array(Math.round(rateHz * (0.2 + 0.1 * dice())));
        addNoise(hiss, AMPLITUDE, dice);
        const sound = transmission([frame], { rateHz, levelDbfs: LEVEL_DBFS, preambleBits: bits });
        addNoise(sound, deviationOf(20, rateHz), dice);
        yield joined([hiss, sound]);
      }
    },
  };
}
