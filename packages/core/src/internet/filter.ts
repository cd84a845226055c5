import { malformed, type Malformed } from '../bits/malformed.js';

/**
 * What a server is asked to send (public description of server-side filter commands): each part adds packets. Distances in km,
 * places in degrees. kinds: p position, o object, i item, m message, q query, s status, t telemetry, n weather service, w weather.
 */
export type FilterPart =
  | {
      readonly kind: 'range';
      readonly latitudeDeg: number;
      readonly longitudeDeg: number;
      readonly km: number;
    }
  | { readonly kind: 'around me'; readonly km: number }
  | { readonly kind: 'begins with'; readonly texts: readonly string[] }
  | { readonly kind: 'calls'; readonly texts: readonly string[] }
  | { readonly kind: 'kinds'; readonly letters: string }
  | {
      readonly kind: 'area';
      readonly northDeg: number;
      readonly westDeg: number;
      readonly southDeg: number;
      readonly eastDeg: number;
    };

const KINDS = 'poimqstunw';

/** As one line: `r/-29.6/-11.4/50 b/QH4MPK*`. */
export function formatFilter(parts: readonly FilterPart[]): string {
  return parts.map(formatPart).join(' ');
}

function formatPart(part: FilterPart): string {
  switch (part.kind) {
    case 'range':
      return `r/${places(part.latitudeDeg)}/${places(part.longitudeDeg)}/${Math.round(part.km)}`;
    case 'around me':
      return `m/${Math.round(part.km)}`;
    case 'begins with':
      return `p/${part.texts.join('/')}`;
    case 'calls':
      return `b/${part.texts.join('/')}`;
    case 'kinds':
      return `t/${part.letters}`;
    case 'area':
      return `a/${[part.northDeg, part.westDeg, part.southDeg, part.eastDeg].map(places).join('/')}`;
  }
}

/** Four decimals are eleven metres: enough for a circle of kilometres. */
const places = (deg: number): string => String(Math.round(deg * 10_000) / 10_000);

/** Reads what was typed; parts of kinds that are not built by form are refused with their place. */
export function parseFilter(text: string): readonly FilterPart[] | Malformed {
  const parts: FilterPart[] = [];
  for (const { 0: word, index } of text.matchAll(/\S+/g)) {
    const part = readPart(word);
    if (part === undefined) return malformed(`“${word}” is no part of a filter that is known here`, index);
    parts.push(part);
  }
  return parts;
}

function readPart(word: string): FilterPart | undefined {
  const [letter = '', ...fields] = word.split('/');
  const numbers = fields.map((field) => (/^-?\d+(?:\.\d+)?$/.test(field) ? Number(field) : NaN));
  const [a = NaN, b = NaN, c = NaN, d = NaN] = numbers;
  const texts = fields.filter((field) => /^[A-Za-z0-9*-]{1,9}$/.test(field));
  const allRead = texts.length === fields.length && texts.length > 0;
  switch (letter) {
    case 'r':
      return isPlace(a, b) && c > 0 && fields.length === 3
        ? { kind: 'range', latitudeDeg: a, longitudeDeg: b, km: c }
        : undefined;
    case 'm':
      return a > 0 && fields.length === 1 ? { kind: 'around me', km: a } : undefined;
    case 'p':
      return allRead ? { kind: 'begins with', texts } : undefined;
    case 'b':
      return allRead ? { kind: 'calls', texts } : undefined;
    case 't':
      return fields.length === 1 && /^[a-z]+$/.test(fields[0] ?? '') && isKinds(fields[0] as string)
        ? { kind: 'kinds', letters: fields[0] as string }
        : undefined;
    case 'a':
      return isPlace(a, b) && isPlace(c, d) && a >= c && fields.length === 4
        ? { kind: 'area', northDeg: a, westDeg: b, southDeg: c, eastDeg: d }
        : undefined;
    default:
      return undefined;
  }
}

const isPlace = (latitude: number, longitude: number): boolean =>
  Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180;
const isKinds = (letters: string): boolean => [...letters].every((letter) => KINDS.includes(letter));
