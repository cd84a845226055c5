import { encodeFrame, uiFrame } from '../../ax25/frame.js';
import { AfskModulator, transmissionBits } from '../modulator.js';
import { BELL_202, type Tones } from '../tones.js';
import { cutPreamble } from './faults.js';

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';
/** From "!" on. */
const PRINTABLE = 94;

/** UI frames of invented calls and of text, from a seed; octets: of the text, from and to. */
export function inventedFrames(
  count: number,
  dice: () => number,
  { from, to }: { readonly from: number; readonly to: number },
): Uint8Array[] {
  const below = (most: number): number => Math.floor(dice() * most);
  const call = (): string => `QH${below(10)}${LETTERS[below(26)]}${LETTERS[below(26)]}-${1 + below(15)}`;
  return Array.from({ length: count }, () => {
    const text = Uint8Array.from({ length: from + below(to - from + 1) }, () => 33 + below(PRINTABLE));
    return encodeFrame(uiFrame(call(), 'APZMPK', [], text));
  });
}

/** preambleBits: all that is heard before the flag that begins the frame; otherwise all of TXDELAY is. */
export interface Sending {
  readonly rateHz: number;
  readonly tones?: Tones;
  readonly twistDb?: number;
  readonly levelDbfs?: number;
  readonly txDelayMs?: number;
  readonly preambleBits?: number;
  readonly pauseMs?: number;
}

/** Frames as one transmission, one after the other with a flag between, and silence after it. */
export function transmission(
  frames: readonly Uint8Array[],
  {
    rateHz,
    tones = BELL_202,
    twistDb = 0,
    levelDbfs = -12,
    txDelayMs = 150,
    preambleBits,
    pauseMs = 100,
  }: Sending,
): Float32Array {
  const bits = transmissionBits(frames, tones, { txDelayMs, txTailMs: 20 });
  const flags = Math.max(1, Math.ceil((txDelayMs / 1000) * (tones.baud / 8)));
  const heard = preambleBits === undefined ? bits : cutPreamble(bits, flags, preambleBits);
  const sent = new AfskModulator({ rateHz, levelDbfs, tones, twistDb }).push(heard);
  const sound = new Float32Array(sent.length + Math.round((pauseMs * rateHz) / 1000));
  sound.set(sent);
  return sound;
}

export function joined(parts: readonly Float32Array[]): Float32Array {
  const all = new Float32Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}
