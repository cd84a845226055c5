import { callWithoutSsid } from '../callsign/callsign.js';
import type { AprsSymbol } from './report.js';

/** 1.0.1, "Symbol in the destination address": where an info field has no room for one, as NMEA data. */

/** Two letters for each run of symbol codes: primary, alternate, first code, how many, first second letter (from memory). */
const RUNS: readonly (readonly [string, string, string, number, string])[] = [
  ['B', 'O', '!', 15, 'B'],
  ['P', 'A', '0', 10, '0'],
  ['M', 'N', ':', 7, 'R'],
  ['P', 'A', 'A', 26, 'A'],
  ['H', 'D', '[', 6, 'S'],
  ['L', 'S', 'a', 26, 'A'],
  ['J', 'Q', '{', 4, '1'],
];

/** `GPSxyz` (also `SPCxyz`, `SYMxyz`), `GPSCnn` and `GPSEnn`; undefined for any other destination. */
export function symbolOfDestination(destination: string): AprsSymbol | undefined {
  const match = /^(?:GPS|SPC|SYM)([A-Z0-9]{2})([A-Z0-9])?$/.exec(callWithoutSsid(destination));
  if (!match) return undefined;
  const [letters, overlay] = [match[1] as string, match[2]];
  const numbered = /^([CE])(\d)$/.exec(letters);
  if (numbered && overlay !== undefined && /\d/.test(overlay)) {
    const code = 32 + Number(`${numbered[2]}${overlay}`);
    if (code < 33 || code > 126) return undefined;
    return { table: numbered[1] === 'C' ? '/' : '\\', code: String.fromCharCode(code) };
  }
  for (const [primary, alternate, first, count, second] of RUNS) {
    const step = letters.charCodeAt(1) - second.charCodeAt(0);
    if (step < 0 || step >= count) continue;
    const code = String.fromCharCode(first.charCodeAt(0) + step);
    if (letters[0] === primary) return { table: '/', code };
    if (letters[0] === alternate) return { table: overlay ?? '\\', code };
  }
  return undefined;
}

/** The inverse: `GPSxy`, with the overlay behind it. Throws RangeError for a code outside the published tables. */
export function destinationOfSymbol({ table, code }: AprsSymbol): string {
  for (const [primary, alternate, first, count, second] of RUNS) {
    const step = code.charCodeAt(0) - first.charCodeAt(0);
    if (step < 0 || step >= count) continue;
    const overlay = /[0-9A-Z]/.test(table) ? table : '';
    return `GPS${table === '/' ? primary : alternate}${String.fromCharCode(second.charCodeAt(0) + step)}${overlay}`;
  }
  throw new RangeError(`no symbol has the code "${code}"`);
}
