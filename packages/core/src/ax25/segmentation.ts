import { malformed, type Malformed } from '../bits/malformed.js';
import { concatOctets } from '../bits/octets.js';

/** AX.25 v2.2, "Segmenter state machine": PID 08, then one octet, first-segment bit and how many segments follow. */
export const SEGMENT_PID = 0x08;
const FIRST = 0x80;
export const MOST_SEGMENTS = 128;

/**
 * The information fields of PID 08 that carry these octets of another protocol; its PID is the first octet carried.
 * Throws RangeError when it takes more than 128 segments.
 */
export function segment(pid: number, octets: Uint8Array, longestOctets: number): Uint8Array[] {
  const room = longestOctets - 1;
  const whole = concatOctets(Uint8Array.of(pid), octets);
  const count = Math.ceil(whole.length / room);
  if (!(room >= 1) || count > MOST_SEGMENTS) throw new RangeError('that takes more than 128 segments');
  return Array.from({ length: count }, (_, i) =>
    concatOctets(
      Uint8Array.of((i === 0 ? FIRST : 0) | (count - 1 - i)),
      whole.subarray(i * room, (i + 1) * room),
    ),
  );
}

/** left: segments still to come. */
export interface Reassembly {
  readonly parts: readonly Uint8Array[];
  readonly left: number;
}

export const NO_SEGMENTS: Reassembly = { parts: [], left: 0 };

/** One segment more; whole is there with the last one. A segment out of turn drops what was gathered, and says so. */
export function reassemble(
  state: Reassembly,
  info: Uint8Array,
): [Reassembly, { readonly pid: number; readonly octets: Uint8Array } | Malformed | undefined] {
  const head = info[0];
  if (head === undefined) return [NO_SEGMENTS, malformed('a segment is empty')];
  const isFirst = (head & FIRST) !== 0;
  const left = head & ~FIRST;
  if (isFirst ? state.left !== 0 : state.left - 1 !== left || state.parts.length === 0)
    return [isFirst ? begun(info, left) : NO_SEGMENTS, malformed('a segment is missing')];
  const next = isFirst ? begun(info, left) : { parts: [...state.parts, info.subarray(1)], left };
  if (left > 0) return [next, undefined];
  const whole = concatOctets(...next.parts);
  const pid = whole[0];
  return [NO_SEGMENTS, pid === undefined ? malformed('a segment is empty') : { pid, octets: whole.slice(1) }];
}

function begun(info: Uint8Array, left: number): Reassembly {
  return { parts: [info.subarray(1)], left };
}
