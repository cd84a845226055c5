import { median, type Heard } from './heard.js';
import { BOUNDS } from './receive-check.js';

/** One step of a transmit check, as a second receiver heard it. */
export interface TransmitStep {
  /** RMS at which it was sent, dBFS. */
  readonly sentDbfs: number;
  readonly sent: number;
  /** Own packets that the second receiver decoded. */
  readonly decoded: number;
  /** Packet tones that it noticed, decoded or not. */
  readonly noticed: number;
  /** Of the own packets. */
  readonly heardDbfs?: number;
  readonly clippedShare?: number;
}

export type StepState = 'not keyed' | 'broken' | 'quiet' | 'clean' | 'limited';

export interface JudgedStep extends TransmitStep {
  readonly state: StepState;
}

export interface TransmitVerdict {
  readonly steps: readonly JudgedStep[];
  /** Level to send at; undefined: none of the steps will do. */
  readonly adviseDbfs?: number;
  readonly words: string;
  readonly turn: string;
}

/** Half of others' deviation is 6 dB below them; beyond this it is told. */
const QUIET_DB = 4;
/** A transmitter that limits: the level heard grows by less than this share of what was added. */
const LIMITED_GROWTH = 0.4;
/** Over the level at which a VOX just holds. */
const VOX_MARGIN_DB = 3;

/** A step of own packets, picked out of all that the second receiver heard. */
export function stepOf(
  heard: Pick<Heard, 'packets' | 'carriers'>,
  { call, sent, sentDbfs }: { readonly call: string; readonly sent: number; readonly sentDbfs: number },
): TransmitStep {
  const own = heard.packets.filter(({ transmitter }) => transmitter === call);
  const heardDbfs = median(own.map(({ levelDbfs }) => levelDbfs));
  const clippedShare = median(own.map((one) => one.clippedShare));
  return {
    sentDbfs,
    sent,
    decoded: Math.min(sent, own.length),
    noticed: Math.max(own.length, heard.carriers),
    ...(heardDbfs !== undefined && { heardDbfs }),
    ...(clippedShare !== undefined && { clippedShare }),
  };
}

/**
 * steps: in any order. othersDbfs: the median of other stations at the same second receiver; undefined: none was heard.
 * isVox: the radio is keyed by the sound itself.
 */
export function judgeTransmit(
  steps: readonly TransmitStep[],
  { othersDbfs, isVox }: { readonly othersDbfs?: number | undefined; readonly isVox: boolean },
): TransmitVerdict {
  const rising = [...steps].sort((a, b) => a.sentDbfs - b.sentDbfs);
  const judged = rising.map((step, i) => ({ ...step, state: stateOf(step, rising[i - 1], othersDbfs) }));
  const good = judged.filter(({ state }) => state === 'clean');
  const lowestHeld = judged.find(({ state }) => state !== 'not keyed' && state !== 'broken');
  if (!lowestHeld) return { steps: judged, ...wordsOfNone(judged) };
  if (good.length === 0) return { steps: judged, ...wordsOfNoGood(judged) };
  const least = isVox ? lowestHeld.sentDbfs + VOX_MARGIN_DB : -Infinity;
  const chosen = nearest(good, othersDbfs);
  const adviseDbfs = Math.min(0, Math.max(chosen.sentDbfs, least));
  const why =
    isVox && adviseDbfs > chosen.sentDbfs
      ? `${VOX_MARGIN_DB} dB above where the radio lets go`
      : othersDbfs === undefined
        ? 'the lowest at which every packet was read'
        : 'nearest to how others sound at the same receiver';
  return {
    steps: judged,
    adviseDbfs,
    words: `Send at ${level(adviseDbfs)}.`,
    turn: `${why.charAt(0).toUpperCase()}${why.slice(1)}. Leave the gain of the radio and the volume of this device as they are now.`,
  };
}

function stateOf(
  step: TransmitStep,
  before: TransmitStep | undefined,
  othersDbfs: number | undefined,
): StepState {
  if (step.noticed === 0) return 'not keyed';
  if (step.decoded < step.sent) return 'broken';
  const { heardDbfs } = step;
  if (heardDbfs === undefined) return 'clean';
  if (othersDbfs !== undefined && heardDbfs < othersDbfs - QUIET_DB) return 'quiet';
  const grown = before?.heardDbfs === undefined ? undefined : heardDbfs - before.heardDbfs;
  const added = before === undefined ? 0 : step.sentDbfs - before.sentDbfs;
  const isOver = othersDbfs === undefined || heardDbfs > othersDbfs;
  if (grown !== undefined && added > 0 && grown < LIMITED_GROWTH * added && isOver) return 'limited';
  return (step.clippedShare ?? 0) > BOUNDS.clippedShare ? 'limited' : 'clean';
}

function nearest(good: readonly JudgedStep[], othersDbfs: number | undefined): JudgedStep {
  const away = ({ heardDbfs }: JudgedStep): number =>
    othersDbfs === undefined || heardDbfs === undefined ? 0 : Math.abs(heardDbfs - othersDbfs);
  return good.reduce((best, one) => (away(one) < away(best) ? one : best));
}

function wordsOfNone(judged: readonly JudgedStep[]): Pick<TransmitVerdict, 'words' | 'turn'> {
  return judged.some(({ state }) => state === 'broken')
    ? {
        words: 'The radio keys, and no step was read whole.',
        turn: 'If it drops out in mid-packet, more level; else look for a keying tone in the voice band, TXDELAY, and a plug that is not fully in.',
      }
    : {
        words: 'The radio does not key.',
        turn: 'Turn the VOX gain of the radio or the volume of this device up; check that the cable is the keying one and the plug is home; squelch closed, if the radio does not key while it receives.',
      };
}

function wordsOfNoGood(judged: readonly JudgedStep[]): Pick<TransmitVerdict, 'words' | 'turn'> {
  const last = judged.at(-1);
  return last?.state === 'quiet'
    ? {
        words: 'Keyed but quiet: below the others even at the loudest step.',
        turn: 'Half the deviation sounds 6 dB below the others. Push the plug home, turn the volume of this device or the microphone gain of the radio up, and check again.',
      }
    : {
        words: 'Too loud already at the lowest step.',
        turn: 'Turn the volume of this device or the microphone gain of the radio down, and check again.',
      };
}

const level = (dbfs: number): string => `${dbfs < 0 ? '−' : ''}${Math.abs(dbfs).toFixed(0)} dBFS`;

/** Modulation index at which the carrier vanishes first (zero of the Bessel function J0). */
const BESSEL_NULL = 2.405;
/** Above the aim by so much a transmitter limits, and neighbours hear it. */
const MOST_DEVIATION_HZ = 5000;

/** The tone at which the carrier vanishes when the deviation is the wanted one. Both in hertz. */
export const nullToneHz = (deviationHz: number): number => deviationHz / BESSEL_NULL;

/**
 * Deviation of a tone where the carrier vanished with another one: a flat input keeps the deviation, a pre-emphasised one the
 * index, so that it grows with the frequency.
 */
export function deviationAt(toneHz: number, nulledWithHz: number, isPreEmphasised: boolean): number {
  const nulled = BESSEL_NULL * nulledWithHz;
  return isPreEmphasised ? (nulled * toneHz) / nulledWithHz : nulled;
}

/** Aims for the stronger tone, by the width of the channel (common practice; Carson bandwidth stays inside). */
export const DEVIATION_AIM_HZ = { wide: { from: 3000, to: 3500 }, narrow: { from: 2000, to: 2500 } } as const;

/** What to do at a receiver that shows the carrier, in words. */
export function besselWords(width: 'wide' | 'narrow', isPreEmphasised: boolean): string {
  const { from, to } = DEVIATION_AIM_HZ[width];
  const [low, high] = [nullToneHz(from), nullToneHz(to)].map((hz) => Math.round(hz));
  const base = `For ${from / 1000} to ${to / 1000} kHz send a steady tone of ${low} to ${high} Hz, come up from nothing, and stop where the carrier vanishes for the first time.`;
  if (!isPreEmphasised) return `${base} On a flat input both tones of a packet then have that deviation.`;
  const wrong = deviationAt(2200, 1200, true);
  return `${base} On a pre-emphasised input the high tone deviates most: take the level down until a tone of 2200 Hz has it, that is by ${(20 * Math.log10(2200 / (low ?? 1))).toFixed(1)} dB from there. Nulling with 1200 Hz would put 2200 Hz at ${(wrong / 1000).toFixed(2)} kHz${wrong > MOST_DEVIATION_HZ ? ', over the limit' : ''}.`;
}
