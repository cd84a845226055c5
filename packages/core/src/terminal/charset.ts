import { toLatin1 } from '../bits/octets.js';

/** Which letters the octets of a session are. */
export const CHARSETS = ['UTF-8', 'ISO-8859-1', 'CP437'] as const;
export type Charset = (typeof CHARSETS)[number];

/** IBM code page 437, 80 to FF (the mapping table of the Unicode consortium, "cp437", from memory). */
const CP437 =
  'ÇüéâäàåçêëèïîìÄÅÉæÆôöòûùÿÖÜ¢£¥₧ƒáíóúñÑªº¿⌐¬½¼¡«»░▒▓│┤╡╢╖╕╣║╗╝╜╛┐' +
  '└┴┬├─┼╞╟╚╔╩╦╠═╬╧╨╤╥╙╘╒╓╫╪┘┌█▄▌▐▀αßΓπΣσµτΦΘΩδ∞φε∩≡±≥≤⌠⌡÷≈°∙·√ⁿ²■\u00a0';

/** What stands for an octet that is no letter of the set. */
const UNREADABLE = '\ufffd';

/** Octets of a whole passage as text. */
export function decodeText(octets: Uint8Array, charset: Charset): string {
  if (charset === 'UTF-8') return decodeUtf8(octets);
  const text = toLatin1(octets);
  return charset === 'ISO-8859-1'
    ? text
    : text.replace(/[\u0080-\u00ff]/g, (one) => CP437[one.charCodeAt(0) - 0x80] as string);
}

/** Text as octets; letters that the set lacks become question marks, and are told. */
export function encodeText(
  text: string,
  charset: Charset,
): { readonly octets: Uint8Array; readonly lost: readonly string[] } {
  if (charset === 'UTF-8') return { octets: encodeUtf8(text), lost: [] };
  const lost = new Set<string>();
  const octets = [...text].map((letter) => {
    const code = codeOf(letter, charset);
    if (code === undefined) lost.add(letter);
    return code ?? 0x3f;
  });
  return { octets: Uint8Array.from(octets), lost: [...lost] };
}

function codeOf(letter: string, charset: 'ISO-8859-1' | 'CP437'): number | undefined {
  const code = letter.codePointAt(0) as number;
  if (code < 0x80) return code;
  if (charset === 'ISO-8859-1') return code < 0x100 ? code : undefined;
  const at = CP437.indexOf(letter);
  return at < 0 ? undefined : 0x80 + at;
}

/**
 * Which set the octets are likely in: what is whole UTF-8 is hardly anything else; box drawing and the like (B0 to DF) many
 * times over is CP437; the rest is ISO-8859-1 (common practice, no source).
 */
export function guessCharset(octets: Uint8Array): Charset {
  const high = octets.filter((octet) => octet >= 0x80);
  if (high.length === 0 || isUtf8(octets)) return 'UTF-8';
  const drawn = high.filter((octet) => octet < 0xa0 || (octet >= 0xb0 && octet <= 0xdf)).length;
  return drawn * 2 > high.length ? 'CP437' : 'ISO-8859-1';
}

const isUtf8 = (octets: Uint8Array): boolean => !decodeUtf8(octets).includes(UNREADABLE);

/** RFC 3629: no longer than it must be, no surrogates, nothing above 10FFFF. Each octet that fits nowhere is told as one. */
function decodeUtf8(octets: Uint8Array): string {
  let text = '';
  for (let at = 0; at < octets.length;) {
    const first = octets[at] as number;
    const more =
      first < 0x80
        ? 0
        : first >= 0xc2 && first < 0xe0
          ? 1
          : (first & 0xf0) === 0xe0
            ? 2
            : first >= 0xf0 && first < 0xf5
              ? 3
              : -1;
    const code = more <= 0 ? first : continued(octets, at, more);
    if (more < 0 || code === undefined) {
      text += UNREADABLE;
      at++;
      continue;
    }
    text += String.fromCodePoint(code);
    at += more + 1;
  }
  return text;
}

const LEAST = [0, 0x80, 0x800, 0x10000] as const;

function continued(octets: Uint8Array, at: number, more: number): number | undefined {
  let code = (octets[at] as number) & (0x3f >> more);
  for (let i = 1; i <= more; i++) {
    const next = octets[at + i];
    if (next === undefined || (next & 0xc0) !== 0x80) return undefined;
    code = (code << 6) | (next & 0x3f);
  }
  const isSurrogate = code >= 0xd800 && code < 0xe000;
  return code < (LEAST[more] as number) || code > 0x10ffff || isSurrogate ? undefined : code;
}

function encodeUtf8(text: string): Uint8Array {
  const octets: number[] = [];
  for (const letter of text) {
    const given = letter.codePointAt(0) as number;
    const code = given >= 0xd800 && given < 0xe000 ? 0xfffd : given;
    if (code < 0x80) octets.push(code);
    else if (code < 0x800) octets.push(0xc0 | (code >> 6), 0x80 | (code & 0x3f));
    else if (code < 0x10000)
      octets.push(0xe0 | (code >> 12), 0x80 | ((code >> 6) & 0x3f), 0x80 | (code & 0x3f));
    else
      octets.push(
        0xf0 | (code >> 18),
        0x80 | ((code >> 12) & 0x3f),
        0x80 | ((code >> 6) & 0x3f),
        0x80 | (code & 0x3f),
      );
  }
  return Uint8Array.from(octets);
}
