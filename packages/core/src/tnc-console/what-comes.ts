import { toLatin1 } from '../bits/octets.js';

/** What the octets from a TNC's port are, as far as they tell. */
export type WhatComes =
  | { readonly kind: 'nothing' }
  | { readonly kind: 'prompt'; readonly prompt: string }
  | { readonly kind: 'text' }
  /** What was typed comes back and nothing else: an echo without a TNC, a loop in the cable. */
  | { readonly kind: 'echo alone' }
  | { readonly kind: 'KISS' }
  | { readonly kind: 'positions' }
  | { readonly kind: 'wrong speed' };

const FEND = 0xc0;

/** From what came lately, and what was typed before it. */
export function whatComes(octets: Uint8Array, typed: string): WhatComes {
  if (octets.length === 0) return { kind: 'nothing' };
  if (octets[0] === FEND && octets.at(-1) === FEND) return { kind: 'KISS' };
  if (isGarbage(octets)) return { kind: 'wrong speed' };
  const text = toLatin1(octets);
  const last =
    text
      .trimEnd()
      .split(/[\r\n]+/)
      .at(-1)
      ?.trim() ?? '';
  if (/^\S{0,12}:$|^\S{0,12}>$|^\*$/.test(last)) return { kind: 'prompt', prompt: last };
  if (/\$G[PNLA][A-Z]{3},/.test(text)) return { kind: 'positions' };
  if (typed !== '' && text.replace(/[\r\n]+/g, '').trim() === typed.trim()) return { kind: 'echo alone' };
  return { kind: 'text' };
}

/** At the wrong speed most octets have their upper bit set or are no letters (common practice, no source). */
function isGarbage(octets: Uint8Array): boolean {
  const odd = octets.filter(
    (octet) => octet >= 0x7f || (octet < 0x20 && ![0x07, 0x08, 0x09, 0x0a, 0x0d, 0x1b].includes(octet)),
  );
  return octets.length >= 4 && odd.length * 3 > octets.length;
}

/** In words: what it means on the bench and what to try. */
export const WHAT_IT_MEANS: Readonly<Record<WhatComes['kind'], string>> = {
  nothing:
    'Nothing comes. Press Enter; if it stays silent, look at power, cable and port; in KISS a TNC answers no command.',
  prompt: 'Its command prompt stands.',
  text: 'Text comes: somebody is connected, or the TNC speaks by itself.',
  'echo alone':
    'Only what is typed comes back: a loop in the cable, or a TNC in its mode for calls. Ctrl-C may bring the prompt.',
  KISS: 'KISS frames come: it is in KISS already. “Leave KISS” brings its prompt back.',
  positions:
    'Position sentences come: this is the output of a receiver, or the TNC passes one on. Another port, or its menu.',
  'wrong speed':
    'Garbage comes: the speed or the parity of the port is not that of the TNC. Try another speed.',
};

/** The call that a TNC names: `MYCALL QH4MPK-1`, `MYcall was N0CALL`. */
export function callOfTnc(text: string): string | undefined {
  return [
    ...text.matchAll(
      /\bMY(?:CALL)?\b[^A-Z0-9\r\n]*(?:is|was|=)?\s*((?=[A-Z0-9]*\d)[A-Z0-9]{3,6}(?:-\d{1,2})?)\b/gi,
    ),
  ]
    .at(-1)?.[1]
    ?.toUpperCase();
}

/** Mail that waits in the TNC's own mailbox, as such TNCs say it. */
export const tellsOfMail = (text: string): boolean =>
  /\byou have (?:new )?mail\b|\bmail waiting\b|\bmail for\b/i.test(text);
