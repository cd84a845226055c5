import { fromLatin1, toLatin1 } from '../bits/octets.js';
import { decodeText, encodeText, guessCharset, type Charset } from '../terminal/charset.js';

/** Header texts with letters beyond ASCII (RFC 2047), of one character per octet. */
const ENCODED = /=\?([\w-]+)(?:\*[\w-]+)?\?([QB])\?([^? ]*)\?=/gi;
const BASE64 = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** As people read it: encoded words put back; what is 8-bit as UTF-8 where it is that, else ISO-8859-1. */
export function readableHeader(value: string): string {
  // White space between two encoded words is none (RFC 2047, 6.2).
  const joined = value.replace(/(\?=)\s+(?==\?)/g, '$1');
  if (!/=\?/.test(joined)) return read(fromLatin1(joined));
  return joined.replace(ENCODED, (word, charset: string, form: string, text: string) => {
    const octets = form.toUpperCase() === 'B' ? fromBase64(text) : fromQuoted(text);
    return octets ? read(octets, charset) : word;
  });
}

/** ASCII as it is; else ISO-8859-1 or UTF-8 in encoded words of base64, each short enough for a line. */
export function headerText(text: string): string {
  const plain = text.replace(/[\r\n\t]+/g, ' ');
  if (/^[\x20-\x7e]*$/.test(plain) && !plain.includes('=?')) return plain;
  const words: string[] = [];
  let part = '';
  const close = (): void => void words.push(`=?utf-8?B?${toBase64(encodeText(part, 'UTF-8').octets)}?=`);
  for (const letter of plain) {
    // 45 octets are 60 signs: with the frame below the 75 of RFC 2047, 2.
    if (encodeText(part + letter, 'UTF-8').octets.length > 45) {
      close();
      part = '';
    }
    part += letter;
  }
  close();
  return words.join(' ');
}

export const charsetOf = (name: string): Charset | undefined =>
  /^utf-?8$/i.test(name)
    ? 'UTF-8'
    : /^(?:iso-8859-1|us-ascii|windows-1252|latin-?1)$/i.test(name)
      ? 'ISO-8859-1'
      : undefined;

/** By its declared set; undeclared octets that are UTF-8 are read as that, all others as ISO-8859-1, the protocol's own. */
export function read(octets: Uint8Array, declared?: string): string {
  const charset = charsetOf(declared ?? '') ?? (guessCharset(octets) === 'UTF-8' ? 'UTF-8' : 'ISO-8859-1');
  return decodeText(octets, charset);
}

function fromQuoted(text: string): Uint8Array {
  return fromLatin1(
    text
      .replaceAll('_', ' ')
      .replace(/=([0-9A-F]{2})/gi, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16))),
  );
}

export function fromBase64(text: string): Uint8Array | undefined {
  const signs = text.replace(/=+$/, '');
  const values = [...signs].map((sign) => BASE64.indexOf(sign));
  if (values.includes(-1) || values.length % 4 === 1) return undefined;
  const bits = values.map((value) => value.toString(2).padStart(6, '0')).join('');
  return Uint8Array.from({ length: Math.floor(bits.length / 8) }, (_, i) =>
    Number.parseInt(bits.slice(8 * i, 8 * i + 8), 2),
  );
}

export function toBase64(octets: Uint8Array): string {
  const bits = [...octets].map((octet) => octet.toString(2).padStart(8, '0')).join('');
  const signs = (bits.match(/.{1,6}/g) ?? []).map((six) => BASE64[Number.parseInt(six.padEnd(6, '0'), 2)]);
  return signs.join('').padEnd(Math.ceil(octets.length / 3) * 4, '=');
}

/** Name of a file as people read it: UTF-8 or ISO-8859-1, no path, nothing that a disk could take amiss. */
export function fileName(latin1: string): string {
  const name = (readableHeader(latin1).split(/[\\/]/).pop() ?? '')
    .replace(/[\u0000-\u001f\u007f<>:"|?*]/g, '_')
    .trim();
  return name === '' || /^\.+$/.test(name) ? 'file' : name.slice(0, 120);
}

export const octetsOf = (text: string): Uint8Array => encodeText(text, 'UTF-8').octets;
export const latin1Of = (text: string): string => toLatin1(octetsOf(text));
