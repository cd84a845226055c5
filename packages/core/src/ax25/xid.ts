import { malformed, type Malformed } from '../bits/malformed.js';

/**
 * The information field of an XID frame (AX.25 v2.2, "Exchange Identification (XID) frame"; ISO 8885): format 82, group 80,
 * length, then parameters as indicator, length, value. What one end can do; the two take the lesser of each.
 */
export interface LinkAbilities {
  readonly halfDuplex: boolean;
  readonly recovery: 'reject' | 'selective reject' | 'both';
  readonly modulo: 8 | 128;
  /** Longest information field that this end receives, octets (sent in bits). */
  readonly receiveOctets: number;
  /** Most frames that this end receives unacknowledged. */
  readonly receiveWindow: number;
  readonly acknowledgeTimerMs: number;
  readonly retries: number;
  /** Whether this end puts segments together again ("Segmenter state machine"). */
  readonly segments: boolean;
}

/** The defaults of v2.2 where a parameter is not sent ("Parameter negotiation"). */
export const USUAL_ABILITIES: LinkAbilities = {
  halfDuplex: true,
  recovery: 'selective reject',
  modulo: 8,
  receiveOctets: 256,
  receiveWindow: 4,
  acknowledgeTimerMs: 3000,
  retries: 10,
  segments: false,
};

const FORMAT = 0x82;
const GROUP = 0x80;
const HEADER = 4;

/** "Classes of procedures": one bit always, balanced; half or full duplex. "HDLC optional functions": bits as numbered there. */
const BALANCED = 0x01;
const HALF_DUPLEX = 0x20;
const FULL_DUPLEX = 0x40;
const REJ = 1 << 1;
const SREJ = 1 << 2;
const EXTENDED_ADDRESS = 1 << 7;
const MODULO_8 = 1 << 10;
const MODULO_128 = 1 << 11;
const TEST = 1 << 13;
const FCS_16 = 1 << 15;
const SYNCHRONOUS = 1 << 17;
/** From memory. */
const SEGMENTER = 1 << 22;
const ALWAYS = EXTENDED_ADDRESS | TEST | FCS_16 | SYNCHRONOUS;

interface Parameter {
  readonly indicator: number;
  readonly octets: number;
  readonly bigEndian: boolean;
  readonly value: (abilities: LinkAbilities) => number;
  readonly read: (value: number) => Partial<LinkAbilities>;
}

/** In the order in which they are sent. The first two are bit fields, low octet first; the rest numbers, high octet first. */
const PARAMETERS: readonly Parameter[] = [
  {
    indicator: 2,
    octets: 2,
    bigEndian: false,
    value: ({ halfDuplex }) => BALANCED | (halfDuplex ? HALF_DUPLEX : FULL_DUPLEX),
    read: (value) => ({ halfDuplex: (value & FULL_DUPLEX) === 0 }),
  },
  {
    indicator: 3,
    octets: 3,
    bigEndian: false,
    value: ({ recovery, modulo, segments }) =>
      ALWAYS |
      (segments ? SEGMENTER : 0) |
      (recovery === 'selective reject' ? 0 : REJ) |
      (recovery === 'reject' ? 0 : SREJ) |
      (modulo === 128 ? MODULO_128 : MODULO_8),
    read: (value) => ({
      recovery: value & SREJ ? (value & REJ ? 'both' : 'selective reject') : 'reject',
      modulo: value & MODULO_128 ? 128 : 8,
      segments: (value & SEGMENTER) !== 0,
    }),
  },
  {
    indicator: 6,
    octets: 2,
    bigEndian: true,
    value: ({ receiveOctets }) => receiveOctets * 8,
    read: (bits) => ({ receiveOctets: Math.floor(bits / 8) }),
  },
  {
    indicator: 8,
    octets: 1,
    bigEndian: true,
    value: ({ receiveWindow }) => receiveWindow,
    read: (receiveWindow) => ({ receiveWindow }),
  },
  {
    indicator: 9,
    octets: 2,
    bigEndian: true,
    value: ({ acknowledgeTimerMs }) => acknowledgeTimerMs,
    read: (acknowledgeTimerMs) => ({ acknowledgeTimerMs }),
  },
  {
    indicator: 10,
    octets: 1,
    bigEndian: true,
    value: ({ retries }) => retries,
    read: (retries) => ({ retries }),
  },
];

export function encodeXid(abilities: LinkAbilities): Uint8Array {
  const parameters = PARAMETERS.flatMap((parameter) => {
    const value = numberOctets(parameter.value(abilities), parameter.octets);
    return [parameter.indicator, parameter.octets, ...(parameter.bigEndian ? value.reverse() : value)];
  });
  return Uint8Array.from([FORMAT, GROUP, parameters.length >> 8, parameters.length & 0xff, ...parameters]);
}

function numberOctets(value: number, count: number): number[] {
  return Array.from({ length: count }, (_, i) => (value >> (8 * i)) & 0xff);
}

/** Parameters that are not known are passed over; those not sent keep their default. */
export function decodeXid(info: Uint8Array): LinkAbilities | Malformed {
  if (info.length < HEADER) return malformed('the XID field is cut short', info.length);
  if (info[0] !== FORMAT || info[1] !== GROUP)
    return malformed('the XID field is of another format or group');
  const end = HEADER + ((info[2] as number) << 8) + (info[3] as number);
  if (end > info.length) return malformed('the XID field is cut short', info.length);
  let abilities = USUAL_ABILITIES;
  for (let at = HEADER; at < end;) {
    const [indicator, octets] = [info[at], info[at + 1]];
    if (octets === undefined || at + 2 + octets > end) return malformed('an XID parameter is cut short', at);
    const known = PARAMETERS.find((parameter) => parameter.indicator === indicator);
    if (known && octets > 0 && octets <= 4) {
      const value = [...info.subarray(at + 2, at + 2 + octets)];
      if (known.bigEndian) value.reverse();
      const number = value.reduce((sum, octet, i) => sum + octet * 2 ** (8 * i), 0);
      abilities = { ...abilities, ...known.read(number) };
    }
    at += 2 + octets;
  }
  return abilities;
}

/** What both ends can do: the lesser of each ability, the slower timer, the more patient count. */
export function agreed(own: LinkAbilities, theirs: LinkAbilities): LinkAbilities {
  const can = (which: 'reject' | 'selective reject'): boolean =>
    [own, theirs].every(({ recovery }) => recovery === which || recovery === 'both');
  return {
    halfDuplex: own.halfDuplex || theirs.halfDuplex,
    recovery: can('selective reject') ? 'selective reject' : 'reject',
    modulo: own.modulo === 128 && theirs.modulo === 128 ? 128 : 8,
    receiveOctets: Math.min(own.receiveOctets, theirs.receiveOctets),
    receiveWindow: Math.min(own.receiveWindow, theirs.receiveWindow),
    acknowledgeTimerMs: Math.max(own.acknowledgeTimerMs, theirs.acknowledgeTimerMs),
    retries: Math.max(own.retries, theirs.retries),
    segments: own.segments && theirs.segments,
  };
}
