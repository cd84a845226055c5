import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { ADDRESS_OCTETS, decodeAddress, writeAddress } from './address.js';
import { carriesPid, decodeControl, encodeControl, type Control, type Modulo } from './control.js';

/** A digipeater entry of the path; used: it has repeated the frame (H bit). */
export interface PathHop {
  readonly call: string;
  readonly used: boolean;
}

/**
 * An AX.25 v2.2 frame without flags and FCS. Calls carry their SSID (`QH4MPK-7`).
 * reserved: the two reserved bits of each address in wire order, left out when all are 3 as the standard sets them.
 */
export interface Ax25Frame {
  readonly destination: string;
  readonly source: string;
  readonly path: readonly PathHop[];
  /** The C bits: command is 1/0, response 0/1; equal bits mean the older version of the protocol. */
  readonly cBits: { readonly destination: boolean; readonly source: boolean };
  readonly control: Control;
  /** Protocol identifier of I and UI frames; F0 = no layer 3. */
  readonly pid?: number;
  readonly info: Uint8Array;
  readonly reserved?: readonly number[];
}

export const NO_LAYER_3 = 0xf0;
export const COMMAND_BITS = { destination: true, source: false } as const;
export const RESPONSE_BITS = { destination: false, source: true } as const;
/** v2.2 allows two digipeaters, practice and earlier versions eight: eight are read. */
export const MOST_DIGIPEATERS = 8;

/** True for a command, false for a response, null where the C bits do not tell (AX.25 v2.2, "Command/response"). */
export function isCommand({ cBits }: Ax25Frame): boolean | null {
  return cBits.destination === cBits.source ? null : cBits.destination;
}

/** An unnumbered information frame, the form of every APRS packet: a command, as v2.2 sends it. */
export function uiFrame(
  source: string,
  destination: string,
  path: readonly PathHop[],
  info: Uint8Array,
): Ax25Frame {
  return {
    destination,
    source,
    path,
    cBits: COMMAND_BITS,
    control: { kind: 'UI', pf: false },
    pid: NO_LAYER_3,
    info,
  };
}

/** Octets from the first address to the last of the info field. Throws RangeError on more than eight digipeaters. */
export function encodeFrame(frame: Ax25Frame, modulo: Modulo = 8): Uint8Array {
  const { destination, source, path, cBits, control, reserved, info } = frame;
  if (path.length > MOST_DIGIPEATERS) throw new RangeError('a path has at most 8 digipeaters');
  const field = encodeControl(control, modulo);
  if (carriesPid(control.kind)) field.push(frame.pid ?? NO_LAYER_3);
  const addresses = 2 + path.length;
  const octets = new Uint8Array(addresses * ADDRESS_OCTETS + field.length + info.length);
  const put = (i: number, call: string, high: boolean): void =>
    writeAddress(
      octets,
      i * ADDRESS_OCTETS,
      { call, high, reserved: reserved?.[i] ?? 3 },
      i === addresses - 1,
    );
  put(0, destination, cBits.destination);
  put(1, source, cBits.source);
  for (let i = 0; i < path.length; i++) put(2 + i, (path[i] as PathHop).call, (path[i] as PathHop).used);
  octets.set(field, addresses * ADDRESS_OCTETS);
  octets.set(info, addresses * ADDRESS_OCTETS + field.length);
  return octets;
}

/** Who sends to whom, and by which way: all that can be read without knowing the numbering. */
export interface AddressField extends Pick<Ax25Frame, 'destination' | 'source' | 'path' | 'cBits'> {
  readonly reserved: readonly number[] | undefined;
  /** How many octets it takes. */
  readonly octets: number;
}

export function decodeAddressField(octets: Uint8Array): AddressField | Malformed {
  const destination = decodeAddress(octets, 0);
  if (isMalformed(destination)) return destination;
  if (destination.last) return malformed('the source address is missing', ADDRESS_OCTETS);
  const source = decodeAddress(octets, ADDRESS_OCTETS);
  if (isMalformed(source)) return source;
  const path: PathHop[] = [];
  const reserved = [destination.reserved, source.reserved];
  let at = 2 * ADDRESS_OCTETS;
  for (let { last } = source; !last; at += ADDRESS_OCTETS) {
    if (path.length === MOST_DIGIPEATERS) return malformed('more than 8 digipeaters', at);
    const hop = decodeAddress(octets, at);
    if (isMalformed(hop)) return hop;
    path.push({ call: hop.call, used: hop.high });
    reserved.push(hop.reserved);
    last = hop.last;
  }
  return {
    destination: destination.call,
    source: source.call,
    path,
    cBits: { destination: destination.high, source: source.high },
    reserved: reserved.every((bits) => bits === 3) ? undefined : reserved,
    octets: at,
  };
}

/** Reads one frame. What is no AX.25 frame comes back as Malformed with the offset; nothing is guessed. */
export function decodeFrame(octets: Uint8Array, modulo: Modulo = 8): Ax25Frame | Malformed {
  const addresses = decodeAddressField(octets);
  if (isMalformed(addresses)) return addresses;
  const { destination, source, path, cBits, reserved } = addresses;
  let at = addresses.octets;
  const field = decodeControl(octets, at, modulo);
  if (isMalformed(field)) return field;
  at += field.length;
  const withPid = carriesPid(field.control.kind);
  if (withPid && at >= octets.length) return malformed('the protocol identifier is missing', at);
  const frame: Mutable<Ax25Frame> = {
    destination,
    source,
    path,
    cBits,
    control: field.control,
    info: octets.slice(withPid ? at + 1 : at),
  };
  if (withPid) frame.pid = octets[at] as number;
  if (reserved) frame.reserved = reserved;
  return frame;
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] };
