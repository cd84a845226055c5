import { MIC_E_MESSAGES } from '@mistpeak/core/aprs/mic-e';
import { FRAME_KINDS } from '@mistpeak/core/ax25/control';
import type { RawEntry, SoughtWord } from '../record/read-frames.js';

/** Addresses stand in the first octets, each shifted left by one (AX.25 2.2, "Address field"): ten of seven octets at most. */
const ADDRESS_OCTETS = 70;

/** Those of the words that have to stand in the octets as they are: no sign of the monitor line, no packed report says them. */
export function plainWords(words: readonly string[]): readonly string[] {
  return words.filter(
    (word) => /^[a-z0-9]+$/.test(word) && !NUMBERS.test(word) && !SAID.some((said) => said.includes(word)),
  );
}

/** The same look as the database takes it. */
export const soughtWord = (word: string): SoughtWord => ({
  text: word,
  inAddress: [shifted(word.toUpperCase()), shifted(word)],
});

const shifted = (word: string): Buffer =>
  Buffer.from([...Buffer.from(word, 'latin1')].map((octet) => octet << 1));

/** An SSID, or what a frame of a connection counts: `S3`, `R12`, `P/F`. */
const NUMBERS = /^(?:[srpf]\d{0,3}|\d{1,3})$/;
/** What the monitor line, or a packed report, says in its own words. */
const SAID: readonly string[] = [...MIC_E_MESSAGES, ...FRAME_KINDS.map((kind) => kind.toLowerCase())];

/** Whether an entry may hold all of these plain words: quick, and never no where it should be yes. */
export function mayHold({ raw, line }: Pick<RawEntry, 'raw' | 'line'>, plain: readonly string[]): boolean {
  if (plain.length === 0) return true;
  const octets = Buffer.from(raw.buffer, raw.byteOffset, raw.length);
  const text = (line ?? octets.toString('latin1')).toLowerCase();
  const head = Buffer.from(octets.subarray(0, ADDRESS_OCTETS).map((octet) => octet >> 1));
  const calls = head.toString('latin1').toLowerCase();
  return plain.every((word) => text.includes(word) || calls.includes(word));
}
