import { decodeAddressField } from '../ax25/frame.js';
import { isMalformed } from '../bits/malformed.js';
import { isStationEntry } from '../digipeating/alias.js';

/**
 * Who was on the air with it: the last digipeater that repeated it, or else its sender. Nobody (an empty text) of what is no
 * frame, and of one whose last digipeater left no call.
 */
export function transmitterOf(raw: Uint8Array): string {
  const field = decodeAddressField(raw);
  if (isMalformed(field)) return '';
  const used = field.path.filter((hop) => hop.used).map(({ call }) => call);
  const [last, before] = used.reverse();
  if (last === undefined) return field.source;
  if (isStationEntry(last)) return last;
  // An alias stands behind the call of who used it up.
  return before !== undefined && isStationEntry(before) ? before : '';
}
