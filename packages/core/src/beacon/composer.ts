import { encodeAprs } from '../aprs/encode.js';
import { encodeFrequency } from '../aprs/frequency.js';
import { OWN_COMPRESSION } from '../aprs/compressed-position.js';
import type { AprsReport, AprsSymbol, Frequency, Phg } from '../aprs/report.js';
import { encodeFrame, uiFrame, type Ax25Frame } from '../ax25/frame.js';
import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { formatCallSign, parseCallSign } from '../callsign/callsign.js';
import { parsePath } from '../digipeating/alias.js';
import type { Position } from '../geo/position.js';
import { OWN_DESTINATION, parseComment } from './beacon.js';

/** The ways in which a position can be told (1.0.1): each carries other things, in other octets. */
export const BEACON_FORMATS = ['plain', 'compressed', 'mic-e'] as const;
export type BeaconFormat = (typeof BEACON_FORMATS)[number];

/** Everything that a beacon can say. source with SSID; path and comment as typed; ambiguityDigits 0–4. */
export interface ComposedBeacon {
  readonly source: string;
  readonly position: Position;
  readonly symbol: AprsSymbol;
  readonly path: string;
  readonly comment: string;
  readonly messaging?: boolean;
  readonly ambiguityDigits?: number;
  readonly frequency?: Frequency;
  readonly altitudeM?: number;
  readonly phg?: Omit<Phg, 'rangeM'>;
  readonly courseDeg?: number;
  readonly speedMps?: number;
}

/** What each form makes of it: the frame, or what it cannot carry. */
export type FormsOfBeacon = Readonly<Record<BeaconFormat, Ax25Frame | Malformed>>;

export function formsOf(beacon: ComposedBeacon): FormsOfBeacon {
  return Object.fromEntries(
    BEACON_FORMATS.map((format) => [format, composeBeacon(beacon, format)]),
  ) as FormsOfBeacon;
}

/** The frame in the form that is chosen, or in the smallest that carries everything; else why there is none. */
export function composeBeacon(
  beacon: ComposedBeacon,
  format: BeaconFormat | 'smallest',
): Ax25Frame | Malformed {
  if (format === 'smallest') return smallest(beacon);
  const source = parseCallSign(beacon.source);
  if (isMalformed(source)) return source;
  const path = parsePath(beacon.path);
  if (isMalformed(path)) return path;
  const refusal = cannotCarry(beacon, format);
  if (refusal !== undefined) return malformed(refusal);
  const { info, destination = OWN_DESTINATION } = encodeAprs(reportOf(beacon, format));
  return uiFrame(formatCallSign(source), destination, path, info);
}

/** Of two that are as long the finer one. */
function smallest(beacon: ComposedBeacon): Ax25Frame | Malformed {
  const forms = formsOf(beacon);
  const frames = (['compressed', 'mic-e', 'plain'] as const).flatMap((format) => {
    const frame = forms[format];
    return isMalformed(frame) ? [] : [frame];
  });
  const shortest = Math.min(...frames.map((frame) => encodeFrame(frame).length));
  return frames.find((frame) => encodeFrame(frame).length === shortest) ?? forms.plain;
}

/** Which form a frame has. */
export function formatOf(frame: Ax25Frame): BeaconFormat {
  const first = String.fromCharCode(frame.info[0] ?? 0);
  if (first === '`' || first === "'") return 'mic-e';
  // A plain position begins with a digit (1.0.1, "Position data formats").
  return /\d/.test(String.fromCharCode(frame.info[1] ?? 0)) ? 'plain' : 'compressed';
}

function reportOf(beacon: ComposedBeacon, format: BeaconFormat): AprsReport {
  const {
    position,
    symbol,
    comment,
    frequency,
    altitudeM,
    phg,
    courseDeg,
    speedMps,
    ambiguityDigits = 0,
  } = beacon;
  const common: AprsReport = {
    type: format === 'mic-e' ? 'mic-e' : 'position',
    ...position,
    symbol,
    comment,
    ...(frequency ? { frequency } : {}),
    ...(altitudeM === undefined ? {} : { altitudeM }),
    ...(courseDeg === undefined ? {} : { courseDeg }),
    ...(speedMps === undefined ? {} : { speedMps }),
  };
  if (format === 'mic-e')
    return { ...common, ambiguityDigits, micE: { message: 'off duty', gpsFix: 'current' } };
  return {
    ...common,
    messaging: beacon.messaging ?? false,
    ...(phg ? { phg: { ...phg, rangeM: 0 } } : {}),
    ...(format === 'compressed' ? { compression: compressionOf(beacon) } : { ambiguityDigits }),
  };
}

/** The two characters carry course and speed; the altitude stands in the comment then. */
const compressionOf = ({ altitudeM, speedMps }: ComposedBeacon) =>
  altitudeM !== undefined && altitudeM >= 1 && speedMps === undefined
    ? ({ ...OWN_COMPRESSION, source: 'GGA' } as const)
    : OWN_COMPRESSION;

/** Room for text: 43 characters behind a plain position, 40 behind a compressed one (1.0.1, "Position data formats"). Mic-E is given the same 43 (our bound). */
const ROOM: Readonly<Record<BeaconFormat, number>> = { plain: 43, compressed: 40, 'mic-e': 43 };
/** `/A=001234` (1.0.1, "Altitude"); a data extension has seven characters. */
const ALTITUDE_OCTETS = 9;
const EXTENSION_OCTETS = 7;

function cannotCarry(beacon: ComposedBeacon, format: BeaconFormat): string | undefined {
  const { phg, speedMps, ambiguityDigits = 0, messaging, altitudeM, frequency } = beacon;
  if (phg && format !== 'plain') return 'only the plain form carries power, height and gain';
  if (phg && speedMps !== undefined)
    return 'power, height and gain stand where course and speed do: one of them only';
  if (ambiguityDigits > 0 && format === 'compressed') return 'the compressed form has no digits to leave out';
  if (messaging && format === 'mic-e') return 'Mic-E does not say that messages are taken';
  if (altitudeM !== undefined && altitudeM < 0 && format !== 'mic-e')
    return 'an altitude below the sea is carried by Mic-E alone';
  const text = parseComment(beacon.comment);
  const isTooLong = isMalformed(text) && /at most/.test(text.malformed);
  if (isMalformed(text) && !isTooLong) return text.malformed;
  const words = [frequency ? encodeFrequency(frequency) : '', beacon.comment].filter(Boolean).join(' ');
  const room =
    ROOM[format] -
    (altitudeM === undefined
      ? 0
      : format === 'mic-e'
        ? 4
        : format === 'compressed' && speedMps === undefined
          ? 0
          : ALTITUDE_OCTETS) -
    (format === 'plain' && (phg ?? speedMps) !== undefined ? EXTENSION_OCTETS : 0);
  return words.length > room
    ? `the text has ${words.length} characters, and this form has room for ${room}`
    : undefined;
}
