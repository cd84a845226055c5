import { malformed, isMalformed, type Malformed } from '../bits/malformed.js';
import { formatCallSign, parseCallSign } from '../callsign/callsign.js';

/**
 * One address subfield of AX.25 v2.2, "Address-field encoding": six octets of call, each shifted left one,
 * then the SSID octet, high bit first: C or H · R R · SSID · E.
 */
export interface Address {
  /** Call with SSID, `QH4MPK-7`; SSID 0 is not written. */
  readonly call: string;
  /** The top bit: C (command/response) for the two ends, H (has been repeated) for a digipeater. */
  readonly high: boolean;
  /** The two reserved bits, 3 when unused. */
  readonly reserved: number;
}

export const ADDRESS_OCTETS = 7;
const HIGH = 0x80;
const LAST = 0x01;
const SPACE = 0x20;

/** Throws RangeError when the call is no call sign: that is a caller's mistake. */
export function encodeAddress({ call, high, reserved }: Address, last: boolean): number[] {
  const parsed = parseCallSign(call);
  if (isMalformed(parsed)) throw new RangeError(`${call}: ${parsed.malformed}`);
  const octets = [...parsed.call.padEnd(6)].map((character) => character.charCodeAt(0) << 1);
  octets.push((high ? HIGH : 0) | (reserved << 5) | (parsed.ssid << 1) | (last ? LAST : 0));
  return octets;
}

/** Reads the seven octets at `at`. */
export function decodeAddress(octets: Uint8Array, at: number): (Address & { last: boolean }) | Malformed {
  if (octets.length < at + ADDRESS_OCTETS) return malformed('the address field is cut short', octets.length);
  let call = '';
  for (let i = at; i < at + 6; i++) {
    const octet = octets[i] as number;
    if (octet & LAST) return malformed('the address field ends inside a call sign', i);
    const code = octet >> 1;
    if (code === SPACE) {
      const padded = onlySpaces(octets, i, at + 6);
      if (padded !== true) return padded;
      break;
    }
    if (!isCallCharacter(code)) return malformed('a call sign has a character that is not A–Z or 0–9', i);
    call += String.fromCharCode(code);
  }
  if (call === '') return malformed('a call sign is empty', at);
  const tail = octets[at + 6] as number;
  return {
    call: formatCallSign({ call, ssid: (tail >> 1) & 15 }),
    high: (tail & HIGH) !== 0,
    reserved: (tail >> 5) & 3,
    last: (tail & LAST) !== 0,
  };
}

function onlySpaces(octets: Uint8Array, from: number, to: number): true | Malformed {
  for (let i = from; i < to; i++)
    if (octets[i] !== SPACE << 1) return malformed('a call sign has a gap in it', i);
  return true;
}

function isCallCharacter(code: number): boolean {
  return (code >= 0x30 && code <= 0x39) || (code >= 0x41 && code <= 0x5a);
}
