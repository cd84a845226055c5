import { isMalformed } from '../bits/malformed.js';
import { formatCallSign, parseCallSign } from '../callsign/callsign.js';

/** Whom a message is for, by the form of its addressee (1.0.1, "Messages, bulletins and announcements"). */
export type AddresseeKind = 'station' | 'bulletin' | 'announcement' | 'group bulletin' | 'group';

/** Nine characters at most; letters, digits and a hyphen. */
const NAME = /^[A-Z0-9][A-Z0-9-]{0,8}$/;

/** As it goes out; or why it cannot. */
export type Addressee =
  | { readonly ok: true; readonly to: string; readonly kind: AddresseeKind }
  | { readonly ok: false; readonly trouble: string };

/** text as typed; groups: the names that are no stations. */
export function readAddressee(text: string, groups: readonly string[]): Addressee {
  const raised = text.trim().toUpperCase();
  if (raised === '')
    return { ok: false, trouble: 'to whom? A call with its SSID, a group, or BLN and a figure' };
  if (!NAME.test(raised))
    return { ok: false, trouble: 'an addressee has at most nine characters: A to Z, 0 to 9 and a hyphen' };
  const bulletin = /^BLN([0-9A-Z])(.*)$/.exec(raised);
  if (bulletin) {
    const [id, group] = [bulletin[1] as string, bulletin[2] as string];
    const kind = group !== '' ? 'group bulletin' : /\d/.test(id) ? 'bulletin' : 'announcement';
    return { ok: true, to: raised, kind };
  }
  if (groups.includes(raised)) return { ok: true, to: raised, kind: 'group' };
  const call = parseCallSign(raised);
  // Services and the internet know names of other forms.
  return { ok: true, to: isMalformed(call) ? raised : formatCallSign(call), kind: 'station' };
}

/** Only a station acknowledges. */
export const wantsAnswer = (kind: AddresseeKind): boolean => kind === 'station';

/**
 * Stations that were heard and that a call never heard may have been meant for: two letters swapped, one wrong, missing or
 * too many, or the same call under another SSID. At most three, the nearest first.
 */
export function meantPerhaps(typed: string, heard: readonly string[]): string[] {
  if (heard.includes(typed)) return [];
  return heard
    .map((call) => ({ call, strokes: strokesBetween(typed, call) }))
    .filter(({ strokes, call }) => strokes <= 1 || baseOf(call) === baseOf(typed))
    .sort((a, b) => a.strokes - b.strokes || a.call.localeCompare(b.call))
    .slice(0, 3)
    .map(({ call }) => call);
}

const baseOf = (call: string): string => call.split('-', 1)[0] as string;

/** Slips of the keyboard between two words: an insertion, a deletion, another letter or a swap of neighbours each count one. */
export function strokesBetween(one: string, other: string): number {
  const rows = Array.from({ length: one.length + 1 }, (_, i) =>
    Array.from({ length: other.length + 1 }, (_, j) => (i === 0 ? j : j === 0 ? i : 0)),
  );
  const at = (i: number, j: number): number => rows[i]?.[j] ?? Infinity;
  for (let i = 1; i <= one.length; i++)
    for (let j = 1; j <= other.length; j++) {
      const isSame = one[i - 1] === other[j - 1];
      const isSwap = one[i - 1] === other[j - 2] && one[i - 2] === other[j - 1];
      (rows[i] as number[])[j] = Math.min(
        at(i - 1, j) + 1,
        at(i, j - 1) + 1,
        at(i - 1, j - 1) + (isSame ? 0 : 1),
        isSwap ? at(i - 2, j - 2) + 1 : Infinity,
      );
    }
  return at(one.length, other.length);
}
