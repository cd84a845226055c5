import { median } from './heard.js';
import { STRETCH_MS, type HeardPacket, type Stretch } from './sound-watch.js';

/** attackMs: of the preamble lost at the beginning. hangMs: the carrier stays on after the packet; undefined: not to be told. */
export interface VoxTiming {
  readonly attackMs: number;
  readonly hangMs?: number;
  readonly packets: number;
}

/** After the attack a receiver needs so much preamble; KISS counts in tens. */
const LEFT_FOR_RECEIVERS_MS = 150;
const LONGEST_HANG_MS = 3000;
/** A carrier without sound is so much quieter than an open squelch. */
const QUIETER_DB = 10;

/**
 * From own packets at a second receiver with open squelch: what is missing of the preamble that was sent, and how long the
 * carrier keeps the noise away afterwards. sentPreambleMs: TXDELAY.
 */
export function measureVox(
  own: readonly HeardPacket[],
  stretches: readonly Stretch[],
  sentPreambleMs: number,
): VoxTiming | undefined {
  const attack = median(own.flatMap(({ preambleMs }) => (preambleMs === undefined ? [] : [preambleMs])));
  if (attack === undefined) return undefined;
  const noise = noiseOf(stretches);
  const hangs = noise === undefined ? [] : own.flatMap(({ atMs }) => hangAfter(atMs, stretches, noise) ?? []);
  const hangMs = median(hangs);
  return {
    attackMs: Math.max(0, sentPreambleMs - attack),
    packets: own.length,
    ...(hangMs !== undefined && { hangMs }),
  };
}

/** Of the louder half: the quiet one may be the carrier that holds on. */
function noiseOf(stretches: readonly Stretch[]): number | undefined {
  const levels = stretches.filter(({ busy }) => busy === undefined).map(({ rmsDbfs }) => rmsDbfs);
  return median(levels.sort((a, b) => b - a).slice(0, Math.ceil(levels.length / 2)));
}

/** Until the noise is back. */
function hangAfter(endMs: number, stretches: readonly Stretch[], noiseDbfs: number): number | undefined {
  const after = stretches.filter(({ atMs }) => atMs > endMs + STRETCH_MS && atMs < endMs + LONGEST_HANG_MS);
  const back = after.find(({ rmsDbfs }) => rmsDbfs > noiseDbfs - QUIETER_DB);
  return back && Math.max(0, back.atMs - STRETCH_MS - endMs);
}

/** What the link is to be set to, in milliseconds, in steps of ten. */
export function voxParameters({ attackMs }: VoxTiming): {
  readonly txDelayMs: number;
  readonly txTailMs: number;
} {
  return { txDelayMs: Math.min(2550, Math.ceil((attackMs + LEFT_FOR_RECEIVERS_MS) / 10) * 10), txTailMs: 30 };
}

/** T2 and TXDELAY of most far ends, until the first octet of their answer (AX.25 2.2, 6.7.1.2; common practice). */
export const USUAL_ANSWER_MS = 300;

/** Words of what a long hang does, or undefined: it does no harm. */
export function hangWords({ hangMs }: VoxTiming, answerAfterMs = USUAL_ANSWER_MS): string | undefined {
  if (hangMs === undefined || hangMs <= answerAfterMs) return undefined;
  return `The VOX holds the key for ${Math.round(hangMs)} ms after a packet; an answer begins after some ${answerAfterMs} ms, so its beginning is lost while packets of others are whole. Set the VOX delay of the radio to its shortest, or key by a line or a tone.`;
}

/** Answers to me begin late while others' packets are whole: the hang is named from what was heard alone. */
export function answersBeginLate(
  answers: readonly HeardPacket[],
  others: readonly HeardPacket[],
  { lateMs, least }: { readonly lateMs: number; readonly least: number },
): boolean {
  const preamble = (packets: readonly HeardPacket[]): number | undefined =>
    packets.length < least ? undefined : median(packets.flatMap(({ preambleMs }) => preambleMs ?? []));
  const [toMe, ofOthers] = [preamble(answers), preamble(others)];
  return toMe !== undefined && ofOthers !== undefined && toMe < lateMs && ofOthers >= lateMs;
}
