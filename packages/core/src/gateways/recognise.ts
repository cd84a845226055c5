import { isMalformed } from '../bits/malformed.js';
import { formatCallSign, hasAmateurForm, isDemoCall, parseCallSign } from '../callsign/callsign.js';
import { parseLocator } from '../geo/locator.js';
import type { Position } from '../geo/position.js';

/** What was recognised in one line of pasted text; shown before anything of it is taken. */
export interface Recognised {
  readonly line: string;
  readonly call: string;
  readonly frequencyMHz: number | undefined;
  readonly position: Position | undefined;
  readonly locator: string | undefined;
}

const LONGEST_PASTE = 200_000;
const MOST_LINES = 5000;
const WORD = /[A-Za-z0-9/.,-]+/g;
/** Bands on which packet and voice are found, MHz: a number within one of them is a frequency. */
const BANDS: readonly (readonly [number, number])[] = [
  [1.8, 2],
  [3.5, 4],
  [5.2, 5.5],
  [7, 7.3],
  [10.1, 10.15],
  [14, 14.35],
  [18.068, 18.168],
  [21, 21.45],
  [24.89, 24.99],
  [28, 29.7],
  [50, 54],
  [144, 148],
  [219, 225],
  [420, 450],
  [902, 928],
  [1240, 1300],
];
const LOCATOR = /^[A-R]{2}\d{2}(?:[A-X]{2}(?:\d{2})?)?$/i;

/** Lines that name a call, with the frequency and the locator that stand beside it. Later lines add to the call before them. */
export function recognise(text: string): Recognised[] {
  const found: Recognised[] = [];
  const lines = text.slice(0, LONGEST_PASTE).split(/\r\n|\r|\n/);
  for (const line of lines.slice(0, MOST_LINES)) {
    const words = line.match(WORD) ?? [];
    const calls = [...new Set(words.flatMap((word) => callIn(word) ?? []))];
    const frequencies = words.flatMap((word, i) => frequencyIn(word, words[i + 1]) ?? []);
    const locator = words.find((word) => LOCATOR.test(word) && callIn(word) === undefined);
    const place = locator === undefined ? undefined : parseLocator(locator);
    const more = {
      frequencyMHz: frequencies[0],
      position: place === undefined || isMalformed(place) ? undefined : place,
      locator: locator?.toUpperCase(),
    };
    const last = found.at(-1);
    if (calls.length > 0) for (const call of calls) found.push({ line: line.trim(), call, ...more });
    else if (last && (more.frequencyMHz !== undefined || more.position))
      found[found.length - 1] = {
        ...last,
        line: `${last.line} / ${line.trim()}`,
        frequencyMHz: last.frequencyMHz ?? more.frequencyMHz,
        position: last.position ?? more.position,
        locator: last.locator ?? more.locator,
      };
  }
  return found;
}

function callIn(word: string): string | undefined {
  const plain = word.replace(/[.,/]+$/, '').toUpperCase();
  // What can be a locator is taken for one: calls with two digits before two letters are rare.
  if (/[.,/]/.test(plain) || LOCATOR.test(plain)) return undefined;
  const call = parseCallSign(plain);
  if (isMalformed(call)) return undefined;
  // QRV, QTH and their like are no calls: those have a digit.
  const isCall = hasAmateurForm(call.call) || (isDemoCall(call.call) && /\d/.test(call.call));
  return isCall ? formatCallSign(call) : undefined;
}

function frequencyIn(word: string, next: string | undefined): number | undefined {
  const plain = /^\d+(?:[.,]\d+)?(?=(?:[kM]Hz)?[.,]?$)/i.exec(word)?.[0];
  if (plain === undefined) return undefined;
  const value = Number(plain.replace(',', '.'));
  const unit = /[kM]Hz/i.exec(word)?.[0] ?? (/^[kM]Hz/i.test(next ?? '') ? next : undefined);
  const mhz = unit !== undefined && /^k/i.test(unit) ? value / 1000 : value;
  const inBand = (one: number): boolean => BANDS.some(([from, to]) => one >= from && one <= to);
  // `7102` and `144 900` are kilohertz where the figure has no point.
  if (inBand(mhz) && (plain !== String(Math.trunc(value)) || unit !== undefined)) return mhz;
  return unit === undefined && value >= 1800 && inBand(value / 1000) ? value / 1000 : undefined;
}
