import { malformed, type Malformed } from './malformed.js';

const HEX_DIGITS = '0123456789abcdef';

/** Octets as lower-case hex, two digits each, no separators. */
export function toHex(octets: Uint8Array): string {
  let text = '';
  for (const octet of octets) text += HEX_DIGITS.charAt(octet >> 4) + HEX_DIGITS.charAt(octet & 15);
  return text;
}

/** Reads hex of either case; white space between octets is allowed. */
export function fromHex(text: string): Uint8Array | Malformed {
  const digits = text.replace(/\s+/g, '');
  const bad = digits.search(/[^0-9a-fA-F]/);
  if (bad >= 0) return malformed(`"${digits.charAt(bad)}" is not a hex digit`, bad);
  if (digits.length % 2 !== 0) return malformed('odd number of hex digits', digits.length);
  const octets = new Uint8Array(digits.length / 2);
  for (let i = 0; i < octets.length; i++) octets[i] = Number.parseInt(digits.slice(2 * i, 2 * i + 2), 16);
  return octets;
}

/** One character per octet (ISO 8859-1), so that bytes which are not ASCII survive a round trip. */
export function toLatin1(octets: Uint8Array): string {
  let text = '';
  // Piece by piece: an argument list has a limit.
  for (let i = 0; i < octets.length; i += 4096)
    text += String.fromCharCode.apply(null, octets.subarray(i, i + 4096) as unknown as number[]);
  return text;
}

/** The inverse of toLatin1. Throws RangeError on a character above U+00FF: that is a caller's mistake. */
export function fromLatin1(text: string): Uint8Array {
  const octets = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code > 255) throw new RangeError(`character ${i} is not one octet`);
    octets[i] = code;
  }
  return octets;
}

/** Text of one character per octet as people read it: as UTF-8 where it is valid, else as ISO 8859-1. */
export function readableText(latin1: string): string {
  if (!/[\x80-\xff]/.test(latin1)) return latin1;
  try {
    return decodeURIComponent(
      latin1.replace(/[%\x80-\xff]/g, (octet) => `%${octet.charCodeAt(0).toString(16).padStart(2, '0')}`),
    );
  } catch {
    return latin1;
  }
}

/** The inverse: text as UTF-8, one character per octet. Half a surrogate pair becomes U+FFFD. */
export function octetText(text: string): string {
  return encodeURIComponent(text.replace(/\p{Cs}/gu, '\ufffd')).replace(/%([0-9A-F]{2})/g, (_, hex: string) =>
    String.fromCharCode(Number.parseInt(hex, 16)),
  );
}

/** As `readableText`, for a screen or a database column: control characters, NUL among them, are shown as dots. */
export function shownText(latin1: string): string {
  return readableText(latin1).replace(/[\0-\x1f\x7f-\x9f]/g, '·');
}

export function concatOctets(...parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

export function equalOctets(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
