import { decodeFrame } from '../ax25/frame.js';
import { isMalformed } from '../bits/malformed.js';
import { toLatin1 } from '../bits/octets.js';
import { KissDecoder } from '../kiss/codec.js';

/** What speaks at a port, as far as its octets tell. */
export const VOICES = [
  'KISS',
  'position sentences',
  'command prompt',
  'packets as text',
  'text',
  'noise',
  'silence',
] as const;
export type Voice = (typeof VOICES)[number];

/** means: what it is; change: the switch that leads to KISS; seen: the first of it, readable. */
export interface PortVoice {
  readonly voice: Voice;
  readonly means: string;
  readonly change: string;
  readonly seen: string;
}

/** All of it common practice, no source. */
const ABOUT: Readonly<Record<Voice, { readonly means: string; readonly change: string }>> = {
  KISS: { means: 'A KISS TNC: this is the port.', change: 'Make it a link.' },
  'position sentences': {
    means: 'Position sentences of a satellite receiver: the radio gives its position here, not KISS.',
    change:
      'In the radio’s menu switch the output of this port from position to KISS, or take its other port.',
  },
  'command prompt': {
    means: 'A TNC that waits for typed commands: it is not in KISS mode.',
    change: 'Type KISS ON and RESTART in a terminal, or KISS where it knows that word; then listen again.',
  },
  'packets as text': {
    means: 'A TNC that prints what it decodes as text: it works, but not in KISS mode.',
    change: 'Switch it from its monitor to KISS, in its menu or by the command KISS ON.',
  },
  text: {
    means: 'Text that is neither KISS nor positions.',
    change: 'Look in the device’s menu for what this port gives, and choose KISS or packet.',
  },
  noise: {
    means: 'Octets that make no sense at this speed.',
    change: 'Try another speed: 9600 and 1200 are the usual ones.',
  },
  silence: {
    means: 'Nothing came. A KISS TNC is silent too until it decodes a packet, so it may still be this one.',
    change:
      'Wait for traffic, or look whether KISS is on and goes to this port, whether the radio is on, and whether another program holds it.',
  },
};

const LONGEST_SEEN = 80;
/** Shares of readable octets: text has nearly all, a wrong speed about a third. */
const READABLE_SHARE = 0.9;

const SENTENCE = /\$(?:G[A-Z]|BD)[A-Z]{3},[^\r\n]*/;
/** `cmd:` is the prompt of the old TNCs, again and again in one line where they echo none; others end a line without its end. */
const PROMPT = /(?:^|[\r\n])\s*(?:(?:cmd:\s*)+|(?:\*?=?>|[\w*-]{1,12}[:>?])\s*)$/i;
const MONITORED = /(?:^|[\r\n])\W{0,3}(?:\d:)?[A-Z0-9]{3,6}(?:-\d{1,2})?>[A-Z0-9]{3,6}(?:-\d{1,2})?\s?[,:<]/i;

/** Judges what a port gave while it was listened to. */
export function portVoice(octets: Uint8Array): PortVoice {
  const voice = voiceOf(octets);
  return { voice, ...ABOUT[voice], seen: excerptOf(octets) };
}

function voiceOf(octets: Uint8Array): Voice {
  if (octets.length === 0) return 'silence';
  if (isKiss(octets)) return 'KISS';
  const text = toLatin1(octets);
  const readable = octets.filter(isReadable).length;
  if (readable / octets.length < READABLE_SHARE) return 'noise';
  if (SENTENCE.test(text)) return 'position sentences';
  if (MONITORED.test(text)) return 'packets as text';
  return PROMPT.test(text) ? 'command prompt' : 'text';
}

/** One whole frame that is AX.25, or a word of the TNC about itself, is proof; noise has neither. */
function isKiss(octets: Uint8Array): boolean {
  return new KissDecoder()
    .push(octets)
    .some(
      (item) =>
        'command' in item &&
        ((item.command === 'data' && !isMalformed(decodeFrame(item.payload))) ||
          (item.command === 'sethardware' && item.payload.length > 2 && item.payload.every(isReadable))),
    );
}

const isReadable = (octet: number): boolean =>
  (octet >= 0x20 && octet < 0x7f) || octet === 0x0d || octet === 0x0a || octet === 0x09;

function excerptOf(octets: Uint8Array): string {
  const text = toLatin1(octets.subarray(0, 4 * LONGEST_SEEN))
    .replace(/[^\x20-\x7e]+/g, ' ')
    .trim();
  return text.length > LONGEST_SEEN ? `${text.slice(0, LONGEST_SEEN)} …` : text;
}

/** The ports that came since the first list: the candidates. */
export function newPorts(before: readonly string[], after: readonly string[]): string[] {
  return after.filter((path) => !before.includes(path));
}
