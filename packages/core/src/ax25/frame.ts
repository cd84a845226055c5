import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { ADDRESS_OCTETS, decodeAddress, encodeAddress, type Address } from './address.js';
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
/** v2.2 allows two digipeaters, practice and earlier versions eight: eight are read. */
export const MOST_DIGIPEATERS = 8;

/** True for a command, false for a response, null where the C bits do not tell (AX.25 v2.2, "Command/response"). */
export function isCommand({ cBits }: Ax25Frame): boolean | null {
  return cBits.destination === cBits.source ? null : cBits.destination;
}

/** An unnumbered information frame, the form of every APRS packet. */
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
    cBits: { destination: false, source: false },
    control: { kind: 'UI', pf: false },
    pid: NO_LAYER_3,
    info,
  };
}

/** Octets from the first address to the last of the info field. Throws RangeError on more than eight digipeaters. */
export function encodeFrame(frame: Ax25Frame, modulo: Modulo = 8): Uint8Array {
  if (frame.path.length > MOST_DIGIPEATERS) throw new RangeError('a path has at most 8 digipeaters');
  const addresses = addressesOf(frame);
  const header = addresses.flatMap((address, i) => encodeAddress(address, i === addresses.length - 1));
  header.push(...encodeControl(frame.control, modulo));
  if (carriesPid(frame.control.kind)) header.push(frame.pid ?? NO_LAYER_3);
  const octets = new Uint8Array(header.length + frame.info.length);
  octets.set(header);
  octets.set(frame.info, header.length);
  return octets;
}

function addressesOf({ destination, source, path, cBits, reserved }: Ax25Frame): Address[] {
  const plain: Omit<Address, 'reserved'>[] = [
    { call: destination, high: cBits.destination },
    { call: source, high: cBits.source },
    ...path.map(({ call, used }) => ({ call, high: used })),
  ];
  return plain.map((address, i) => ({ ...address, reserved: reserved?.[i] ?? 3 }));
}

/** Reads one frame. What is no AX.25 frame comes back as Malformed with the offset; nothing is guessed. */
export function decodeFrame(octets: Uint8Array, modulo: Modulo = 8): Ax25Frame | Malformed {
  const addresses = decodeAddresses(octets);
  if (isMalformed(addresses)) return addresses;
  const [destination, source, ...digipeaters] = addresses as [Address, Address, ...Address[]];
  let at = addresses.length * ADDRESS_OCTETS;
  const field = decodeControl(octets, at, modulo);
  if (isMalformed(field)) return field;
  at += field.length;
  const withPid = carriesPid(field.control.kind);
  if (withPid && at >= octets.length) return malformed('the protocol identifier is missing', at);
  const pid = withPid ? octets[at++] : undefined;
  const reserved = addresses.map((address) => address.reserved);
  return {
    destination: destination.call,
    source: source.call,
    path: digipeaters.map(({ call, high }) => ({ call, used: high })),
    cBits: { destination: destination.high, source: source.high },
    control: field.control,
    ...(pid === undefined ? {} : { pid }),
    info: octets.slice(at),
    ...(reserved.every((bits) => bits === 3) ? {} : { reserved }),
  };
}

function decodeAddresses(octets: Uint8Array): Address[] | Malformed {
  const addresses: Address[] = [];
  for (let at = 0; ; at += ADDRESS_OCTETS) {
    if (addresses.length === MOST_DIGIPEATERS + 2) return malformed('more than 8 digipeaters', at);
    const address = decodeAddress(octets, at);
    if (isMalformed(address)) return address;
    const { last, ...kept } = address;
    addresses.push(kept);
    if (!last) continue;
    return addresses.length < 2 ? malformed('the source address is missing', at + ADDRESS_OCTETS) : addresses;
  }
}
