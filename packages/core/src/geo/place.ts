import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { parseCoordinate } from './coordinates.js';
import { parseLocator } from './locator.js';
import type { Position } from './position.js';

const LOCATOR = /^[a-z]{2}\d{2}(?:[a-z]{2}(?:\d{2}(?:[a-z]{2})?)?)?$/i;
const EXAMPLE = '29.6320 S 11.4050 W, 29 37.92 S 11 24.30 W, or a locator as IG40hi';

/** A place as people type or paste it: two coordinates in any form, the latitude first unless letters tell, or a locator of at least four characters. */
export function parsePlace(text: string): Position | Malformed {
  const trimmed = text.trim();
  if (LOCATOR.test(trimmed)) return parseLocator(trimmed);
  const halves = halvesOf(trimmed);
  if (!halves) return malformed(`write the place as ${EXAMPLE}`);
  const [first, second] = /[EW]/i.test(halves[0]) ? [halves[1], halves[0]] : halves;
  const latitudeDeg = parseCoordinate(first, 'latitude');
  if (isMalformed(latitudeDeg)) return latitudeDeg;
  const longitudeDeg = parseCoordinate(second, 'longitude');
  return isMalformed(longitudeDeg) ? longitudeDeg : { latitudeDeg, longitudeDeg };
}

/** Two coordinates beside one another, parted: at their letters, or at a sign that parts them, or in the middle of the words. */
function halvesOf(text: string): readonly [string, string] | undefined {
  if (/(?![NSEW])[A-Z]/i.test(text)) return undefined;
  const letters = [...text.matchAll(/[NSEW]/gi)].map(({ index }) => index);
  const [first, second] = letters;
  if (first !== undefined && second !== undefined) {
    const at = first === 0 ? second : first + 1;
    return [bare(text.slice(0, at)), bare(text.slice(at))];
  }
  if (first !== undefined) return undefined;
  const parted = /^(.+?)(?:\s*;\s*|,\s+)(.+)$/.exec(text) ?? /^([^,]+\.[^,]+),([^,]+\.[^,]+)$/.exec(text);
  if (parted) return [parted[1] ?? '', parted[2] ?? ''];
  const words = text.split(/\s+/);
  if (words.length % 2 > 0) return undefined;
  return [words.slice(0, words.length / 2).join(' '), words.slice(words.length / 2).join(' ')];
}

const bare = (text: string): string => text.replace(/^[\s,;]+|[\s,;]+$/g, '');

/** As it is typed, to a tenth of a metre: what is read back is the same place. */
export function formatPlace({ latitudeDeg, longitudeDeg }: Position): string {
  const of = (degrees: number, letters: string): string =>
    `${Number(Math.abs(degrees).toFixed(6))} ${letters[degrees < 0 ? 1 : 0]}`;
  return `${of(latitudeDeg, 'NS')} ${of(longitudeDeg, 'EW')}`;
}
