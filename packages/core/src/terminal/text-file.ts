import { malformed, type Malformed } from '../bits/malformed.js';
import { toLatin1 } from '../bits/octets.js';

/**
 * A file as text of seven bits, so that whatever changes other octets on the way does no harm: the base64 form of POSIX
 * uuencode (IEEE Std 1003.1, "uuencode", -m): `begin-base64 mode name`, lines of RFC 4648 base64, `====`.
 */
export interface NamedFile {
  readonly name: string;
  readonly octets: Uint8Array;
}

const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
/** Octets of a line of 60 characters, as uuencode makes them. */
const LINE_OCTETS = 45;

/** Lines without their ends. */
export function encodeTextFile({ name, octets }: NamedFile): string[] {
  const lines = [`begin-base64 644 ${safeFileName(name)}`];
  for (let at = 0; at < octets.length; at += LINE_OCTETS)
    lines.push(encodeBase64(octets.subarray(at, at + LINE_OCTETS)));
  return [...lines, '===='];
}

export function encodeBase64(octets: Uint8Array): string {
  let text = '';
  for (let at = 0; at < octets.length; at += 3) {
    const [a = 0, b, c] = octets.subarray(at, at + 3);
    const bits = (a << 16) | ((b ?? 0) << 8) | (c ?? 0);
    const letters = [18, 12, 6, 0].map((shift) => ALPHABET[(bits >> shift) & 63] as string);
    text +=
      letters[0]! +
      letters[1]! +
      (b === undefined ? '=' : letters[2]!) +
      (c === undefined ? '=' : letters[3]!);
  }
  return text;
}

function decodeBase64(text: string): Uint8Array | undefined {
  if (!/^(?:[A-Za-z0-9+/]{4})*(?:[A-Za-z0-9+/]{2}==|[A-Za-z0-9+/]{3}=)?$/.test(text)) return undefined;
  const octets: number[] = [];
  for (let at = 0; at < text.length; at += 4) {
    const codes = [...text.slice(at, at + 4)].map((letter) => ALPHABET.indexOf(letter));
    const bits = codes.reduce((sum, code) => (sum << 6) | Math.max(0, code), 0);
    const known = codes.filter((code) => code >= 0).length - 1;
    octets.push(...[bits >> 16, bits >> 8, bits].slice(0, known).map((octet) => octet & 0xff));
  }
  return Uint8Array.from(octets);
}

/** Whole files in lines of text; one that is begun and not ended, or garbled, is named with its reason. */
export function findTextFiles(
  lines: readonly string[],
): (NamedFile | (Malformed & { readonly name: string }))[] {
  const found: (NamedFile | (Malformed & { readonly name: string }))[] = [];
  for (let i = 0; i < lines.length; i++) {
    const begin = /^begin-base64 [0-7]{3,4} (\S.*)$/.exec((lines[i] as string).trimEnd());
    if (!begin) continue;
    const name = safeFileName(begin[1] as string);
    const end = lines.findIndex((line, at) => at > i && line.trimEnd() === '====');
    if (end < 0) {
      found.push({ ...malformed('it has no end: ==== is missing'), name });
      break;
    }
    const octets = decodeBase64(
      lines
        .slice(i + 1, end)
        .map((line) => line.trim())
        .join(''),
    );
    found.push(octets ? { name, octets } : { ...malformed('it is garbled'), name });
    i = end;
  }
  return found;
}

/** A name from outside is a name, not a path. */
export function safeFileName(given: string): string {
  const name = toLatin1(Uint8Array.from([...given].map((letter) => letter.charCodeAt(0) & 0xff)))
    .replace(/^.*[/\\]/, '')
    .replace(/[\u0000-\u001f\u007f-\u00ff"*:<>?|]/g, '_')
    .replace(/^\.+/, '')
    .trim()
    .slice(0, 60);
  return name === '' ? 'file' : name;
}
