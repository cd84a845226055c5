import { decodeControl, type Modulo } from '../ax25/control.js';
import { decodeAddressField, type Ax25Frame } from '../ax25/frame.js';
import { isMalformed, type Malformed } from '../bits/malformed.js';
import type { SessionTrouble } from './session.js';

/** N1: what we say in XID that we take, octets of information. */
export const MOST_RECEIVED_OCTETS = 2048;
const NO_INFORMATION: readonly Ax25Frame['control']['kind'][] = [
  'RR',
  'RNR',
  'REJ',
  'SREJ',
  'SABM',
  'SABME',
  'DISC',
  'UA',
  'DM',
];

/** What is wrong with a frame of this link by the standard's error table, L to O; undefined when nothing is. */
export function frameFault(
  octets: Uint8Array,
  frame: Ax25Frame | Malformed,
  modulo: Modulo,
): SessionTrouble | undefined {
  if (isMalformed(frame)) return unreadable(octets, modulo);
  const { control, info } = frame;
  if (NO_INFORMATION.includes(control.kind) && info.length > 0) return 'M: information where none may be';
  if (control.kind === 'I' && info.length > MOST_RECEIVED_OCTETS)
    return 'O: more information than was agreed';
  return undefined;
}

/** Its addresses were read before: what fails is the control field, or what must follow it. */
function unreadable(octets: Uint8Array, modulo: Modulo): SessionTrouble {
  const addresses = decodeAddressField(octets);
  if (isMalformed(addresses)) return 'unreadable frame';
  const at = addresses.octets;
  const field = decodeControl(octets, at, modulo);
  if (!isMalformed(field)) return 'N: length wrong for its kind';
  // A control field that has its octets and means nothing, or one that lacks an octet.
  return octets.length > field.at ? 'L: control field without a meaning' : 'N: length wrong for its kind';
}
