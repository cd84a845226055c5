import { shownText } from '../bits/octets.js';
import { formatMonitorText } from '../ax25/monitor-text.js';
import type { HeardPacket } from './heard-packet.js';

/** By what text a frame is found, in small letters: its monitor line, and what a packed report says. */
export function searchText({ frame, report }: Pick<HeardPacket, 'frame' | 'report'>): string {
  // What a Mic-E report says stands in octets that nobody types; its message stands nowhere else.
  const packed = report?.micE ? ` ${report.micE.message}` : '';
  return `${shownText(formatMonitorText(frame))}${packed}`.toLowerCase();
}

/** The words that have to occur, each of them, in small letters. */
export function searchWords(text: string): readonly string[] {
  return [...new Set(text.toLowerCase().split(/\s+/).filter(Boolean))];
}

const CODE_BITS = 10;

/**
 * Every three letters in a row that hold no blank, each as one number below 2^30, so that a word of three letters and more is
 * found by numbers alone; letters beyond the first 1024 of Unicode share numbers.
 */
export function trigramCodes(text: string): ReadonlySet<number> {
  const codes = new Set<number>();
  const mask = (1 << CODE_BITS) - 1;
  for (const run of text.split(/\s+/))
    for (let at = 0; at + 3 <= run.length; at++) {
      const [a, b, c] = [run.charCodeAt(at), run.charCodeAt(at + 1), run.charCodeAt(at + 2)];
      codes.add(((a & mask) << (2 * CODE_BITS)) | ((b & mask) << CODE_BITS) | (c & mask));
    }
  return codes;
}
