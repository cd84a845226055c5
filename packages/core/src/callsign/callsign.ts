import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';

/** A station's name on the air: call 1–6 characters A–Z 0–9, ssid 0–15 (AX.25 v2.2, address field encoding). */
export interface CallSign {
  readonly call: string;
  readonly ssid: number;
}

const FIELD = /^([A-Z0-9]{1,6})(?:-(\d{1,2}))?$/;

/** Reads `QH4MPK` or `QH4MPK-7`; small letters are raised. SSID 0 may be written or left out. */
export function parseCallSign(text: string): CallSign | Malformed {
  const raised = text.trim().toUpperCase();
  if (raised === '') return malformed('a call sign is missing');
  const match = FIELD.exec(raised);
  if (!match) return malformed(whyNoCallSign(raised), badCharacter(raised));
  const ssid = Number(match[2] ?? 0);
  if (ssid > 15 || (match[2] !== undefined && String(ssid) !== match[2]))
    return malformed('an SSID is a number from 0 to 15, as in QH4MPK-7', raised.indexOf('-') + 1);
  return { call: match[1] as string, ssid };
}

function badCharacter(text: string): number {
  return Math.max(0, text.search(/[^A-Z0-9-]/));
}

function whyNoCallSign(text: string): string {
  const bad = /[^A-Z0-9-]/.exec(text);
  if (bad) return `"${bad[0]}" cannot be part of a call sign: use A to Z, 0 to 9 and one hyphen`;
  if (text.split('-').length > 2 || /-(?!\d{1,2}$)/.test(text))
    return 'an SSID is a number from 0 to 15, as in QH4MPK-7';
  return 'a call sign has 1 to 6 characters before the hyphen';
}

/** SSID 0 is not written (common practice in monitor text). */
export function formatCallSign({ call, ssid }: CallSign): string {
  return ssid === 0 ? call : `${call}-${ssid}`;
}

/** The call without its SSID; a text that is no call sign comes back unchanged. */
export function callWithoutSsid(text: string): string {
  const hyphen = text.indexOf('-');
  return hyphen < 0 ? text : text.slice(0, hyphen);
}

/**
 * The form of an amateur station's call sign: one or two characters of prefix, a digit, up to four
 * characters of suffix of which the last is a letter (ITU Radio Regulations, article 19; from memory),
 * cut to the six characters that AX.25 can carry.
 */
const AMATEUR_FORM = /^(?:[A-Z]{1,2}|[A-Z][0-9]|[0-9][A-Z])[0-9][A-Z0-9]{0,3}[A-Z]$/;

/** call: without its SSID. */
export const hasAmateurForm = (call: string): boolean => AMATEUR_FORM.test(call);

/**
 * Words that stand in for a call in examples, with any digit in the digit's place; nobody may transmit them (common
 * practice, no source). Of N0CAL the digit counts: with others it is somebody's call.
 */
const PLACEHOLDERS = /^(?:N[0-9O]CALL|N[0O]CAL|MY[0-9O]?CALL?|N[0-9O]NAME|T[0-9]ST)$/;

export function isPlaceholderCall(text: string): boolean {
  return PLACEHOLDERS.test(callWithoutSsid(text.trim().toUpperCase()));
}

/** Calls beginning with Q are never allotted (ITU prefix blocks): the demo world lives there. */
export function isDemoCall(text: string): boolean {
  return text.trim().toUpperCase().startsWith('Q');
}

/** A licence call sign, without SSID, that its holder may transmit with. Demo calls pass: the lock judges them. */
export function parseLicenceCall(text: string): string | Malformed {
  const parsed = parseCallSign(text);
  if (isMalformed(parsed)) return parsed;
  if (/-/.test(text)) return malformed('give the licence call alone, without an SSID', text.indexOf('-'));
  if (isPlaceholderCall(parsed.call))
    return malformed(`${parsed.call} is a placeholder: enter the call on your licence`);
  if (!hasAmateurForm(parsed.call))
    return malformed('an amateur call has a prefix, a digit and ends in a letter, as in QH4MPK');
  return parsed.call;
}
