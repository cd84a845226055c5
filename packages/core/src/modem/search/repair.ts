import { decodeFrame, NO_LAYER_3 } from '../../ax25/frame.js';
import { isMalformed } from '../../bits/malformed.js';
import { HdlcDecoder, type HdlcDiscard } from '../../hdlc/bit-stream.js';
import type { LineDecoder } from '../../hdlc/line-code.js';

/**
 * A choice of the search that may have been the wrong one: where it was made, by how little, and which tones would be others
 * (bit 0 of the mask the one at that place, bit 1 the one before, and so on).
 */
export interface Doubt {
  readonly at: number;
  readonly margin: number;
  readonly mask: number;
}

/** So many of the least sure are tried, one by one and two at a time, the least sure together first; so many tries in all. */
const MOST_DOUBTS = 16;
const MOST_TRIES = 60;
const FLAG_BITS = Uint8Array.of(0, 1, 1, 1, 1, 1, 1, 0);

export interface Repaired {
  readonly raw: Uint8Array;
  readonly repairs: 1 | 2;
}

interface Try {
  readonly margin: number;
  readonly turned: readonly Doubt[];
}

/**
 * Levels of the line (or tones, 1 for mark) from the last ones of a flag, as many as the line's history, to the last of the next,
 * whose frame has a bad FCS, with one or two choices turned round; doubts: the least sure first. Each try finds a good FCS by chance once in 65,536: so the
 * frame must be one that APRS sends, whole.
 */
export function repair(
  levels: Uint8Array,
  doubts: readonly Doubt[],
  lineOf: () => LineDecoder,
): Repaired | undefined {
  for (const { turned } of likeliestFirst(doubts.slice(0, MOST_DOUBTS))) {
    const raw = frameWith(levels, turned, lineOf());
    if (raw) return { raw, repairs: turned.length as 1 | 2 };
  }
  return undefined;
}

function likeliestFirst(doubts: readonly Doubt[]): readonly Try[] {
  const tries = doubts.flatMap((one, i): Try[] => [
    { margin: one.margin, turned: [one] },
    ...doubts.slice(i + 1).map((other) => ({ margin: one.margin + other.margin, turned: [one, other] })),
  ]);
  return tries.sort((a, b) => a.margin - b.margin).slice(0, MOST_TRIES);
}

function frameWith(levels: Uint8Array, turned: readonly Doubt[], line: LineDecoder): Uint8Array | undefined {
  const changed = levels.slice();
  for (const { at, mask } of turned)
    for (let back = 0; mask >> back > 0; back++)
      if ((mask >> back) & 1 && at - back >= 0) changed[at - back] = (changed[at - back] as number) ^ 1;
  const decoder = new HdlcDecoder();
  const out: (Uint8Array | HdlcDiscard)[] = decoder.push(FLAG_BITS);
  for (let i = 0; i < changed.length; i++) {
    const bit = line.bit(changed[i] as number);
    if (i >= line.history) decoder.pushBit(bit, out);
  }
  const [frame] = out;
  return out.length === 1 && frame instanceof Uint8Array && isSentByAprs(frame) ? frame : undefined;
}

/** A UI frame without layer 3 and with readable text; Mic-E has 1C to 1F and 7F besides (APRS 1.0.1, "Mic-E data format"). */
export function isSentByAprs(raw: Uint8Array): boolean {
  const frame = decodeFrame(raw);
  if (isMalformed(frame) || frame.control.kind !== 'UI' || frame.pid !== NO_LAYER_3) return false;
  return frame.info.length > 0 && frame.info.every(isText);
}

const isText = (octet: number): boolean =>
  (octet >= 0x1c && octet <= 0x7f) || octet === 0x0d || octet === 0x0a;
