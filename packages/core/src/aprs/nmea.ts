import { malformed, type Malformed } from '../bits/malformed.js';
import { MPS_PER_KNOT } from '../units/units.js';
import { symbolOfDestination } from './destination-symbol.js';
import { isBelowZero } from './plain-position.js';
import type { AprsReport } from './report.js';
import { digits } from './text.js';

/**
 * 1.0.1, "NMEA data" and NMEA 0183: `$`, talker, sentence, fields, `*` and checksum in hex. The waypoint is WPL in
 * NMEA 0183; the reference prints WPT, and both are read.
 */
const SENTENCE = /^\$([A-Z]{2})(GGA|RMC|GLL|VTG|WPL|WPT),([^*\r\n]*)(?:\*([0-9A-Fa-f]{2}))?/;

type Reader = (fields: readonly string[]) => Partial<AprsReport> | Malformed;

const READERS: Record<string, Reader> = {
  GGA: readGga,
  RMC: readRmc,
  GLL: readGll,
  VTG: readVtg,
  WPL: readWpl,
  WPT: readWpl,
};

/** destination: `GPSxyz` tells the symbol (1.0.1, "Symbol in the destination address"). */
export function readNmea(info: string, destination: string): AprsReport | Malformed {
  const match = SENTENCE.exec(info);
  if (!match) return malformed('the sentence is not GGA, RMC, GLL, VTG or WPL', 1);
  const sentence = match[2] as string;
  const sum = match[4];
  if (sum !== undefined && nmeaChecksum(info.slice(1)) !== Number.parseInt(sum, 16))
    return malformed('the checksum of the sentence is wrong', info.indexOf('*') + 1);
  const facts = (READERS[sentence] as Reader)((match[3] as string).split(','));
  if ('malformed' in facts) return facts;
  const symbol = symbolOfDestination(destination);
  return {
    type: 'nmea',
    ...facts,
    ...(symbol ? { symbol } : {}),
    nmea: { sentence, checked: sum !== undefined },
  };
}

/** Exclusive or of the octets before `*` (NMEA 0183). */
export function nmeaChecksum(text: string): number {
  let sum = 0;
  for (let i = 0; i < text.length && text[i] !== '*'; i++) sum ^= text.charCodeAt(i);
  return sum;
}

function readGga([time, lat, north, lon, east, fix, , , altitude]: readonly string[]):
  | Partial<AprsReport>
  | Malformed {
  if (fix === '0') return malformed('the receiver has no fix');
  return withPlace(lat, north, lon, east, {
    ...timeOf(time),
    ...(altitude && Number.isFinite(Number(altitude)) ? { altitudeM: Number(altitude) } : {}),
  });
}

function readRmc(fields: readonly string[]): Partial<AprsReport> | Malformed {
  const [time, status, lat, north, lon, east, knots, course] = fields;
  if (status === 'V') return malformed('the receiver warns: no valid fix');
  const hasCourse = course && Number(course) >= 0 && Number(course) <= 360;
  return withPlace(lat, north, lon, east, {
    ...timeOf(time),
    ...(knots && Number(knots) >= 0 ? { speedMps: Number(knots) * MPS_PER_KNOT } : {}),
    ...(hasCourse ? { courseDeg: Number(course) % 360 } : {}),
  });
}

function readGll([lat, north, lon, east, time, status]: readonly string[]): Partial<AprsReport> | Malformed {
  if (status === 'V') return malformed('the receiver warns: no valid fix');
  return withPlace(lat, north, lon, east, timeOf(time));
}

/** Course over ground in degrees true, speed in knots; no position. */
function readVtg([course, , , , knots]: readonly string[]): Partial<AprsReport> | Malformed {
  const [degrees, speed] = [figureOf(course), figureOf(knots)];
  if (degrees === undefined && speed === undefined)
    return malformed('the sentence has no course and no speed');
  return {
    ...(degrees === undefined || degrees > 360 ? {} : { courseDeg: degrees % 360 }),
    ...(speed === undefined ? {} : { speedMps: speed * MPS_PER_KNOT }),
  };
}

function figureOf(text = ''): number | undefined {
  return /^\d{1,4}(?:\.\d*)?$/.test(text) ? Number(text) : undefined;
}

function readWpl([lat, north, lon, east, name = '']: readonly string[]): Partial<AprsReport> | Malformed {
  return withPlace(
    lat,
    north,
    lon,
    east,
    name.trim() === '' ? {} : { object: { name: name.trim(), live: true } },
  );
}

function timeOf(time: string | undefined): Partial<AprsReport> {
  const match = /^(\d\d)(\d\d)(\d\d)/.exec(time ?? '');
  if (!match) return {};
  const [hour, minute, second] = match.slice(1).map(Number) as [number, number, number];
  return { timestamp: { form: 'hms', text: match[0], hour, minute, second } };
}

function withPlace(
  lat = '',
  north = '',
  lon = '',
  east = '',
  facts: Partial<AprsReport>,
): Partial<AprsReport> | Malformed {
  const latitude = degreesOf(lat, 2);
  const longitude = degreesOf(lon, 3);
  if (latitude === undefined || !/^[NS]$/.test(north) || latitude > 90)
    return malformed('the sentence has no latitude');
  if (longitude === undefined || !/^[EW]$/.test(east) || longitude > 180)
    return malformed('the sentence has no longitude');
  return {
    latitudeDeg: north === 'S' ? -latitude : latitude,
    longitudeDeg: east === 'W' ? -longitude : longitude,
    ...facts,
  };
}

function degreesOf(text: string, width: number): number | undefined {
  const match = new RegExp(`^(\\d{${width}})([0-5]\\d(?:\\.\\d{0,7})?)$`).exec(text);
  return match ? Number(match[1]) + Number(match[2]) / 60 : undefined;
}

/** The sentence that the report came in, RMC where it does not tell; with its checksum unless that was left out. */
export function encodeNmea(report: AprsReport): string {
  const { timestamp, speedMps, courseDeg, altitudeM, object, nmea } = report;
  const time = timestamp?.text.slice(0, 6) ?? '';
  const place = nmea?.sentence === 'VTG' ? [] : placeFields(report);
  const figure = (value: number | undefined, decimals: number): string => value?.toFixed(decimals) ?? '';
  const knots = speedMps === undefined ? undefined : speedMps / MPS_PER_KNOT;
  const fields: Record<string, readonly string[]> = {
    RMC: [time, 'A', ...place, figure(knots, 3), figure(courseDeg, 1), ''],
    GGA: [time, ...place, '1', '', '', figure(altitudeM, 1), 'M', '', 'M', '', ''],
    GLL: [...place, time, 'A'],
    VTG: [figure(courseDeg, 1), 'T', '', 'M', figure(knots, 3), 'N', '', 'K'],
    WPL: [...place, object?.name ?? ''],
  };
  const sentence = nmea?.sentence === 'WPT' ? 'WPL' : (nmea?.sentence ?? 'RMC');
  const body = `GP${sentence},${(fields[sentence] ?? []).join(',')}`;
  if (nmea?.checked === false) return `$${body}`;
  return `$${body}*${nmeaChecksum(body).toString(16).toUpperCase().padStart(2, '0')}`;
}

function placeFields({ latitudeDeg = 0, longitudeDeg = 0 }: AprsReport): string[] {
  const place = (degrees: number, width: number): string => {
    const whole = Math.round(Math.abs(degrees) * 600_000);
    const minutes = ((whole % 600_000) / 10_000).toFixed(4).padStart(7, '0');
    return digits(Math.floor(whole / 600_000), width) + minutes;
  };
  return [
    place(latitudeDeg, 2),
    isBelowZero(latitudeDeg) ? 'S' : 'N',
    place(longitudeDeg, 3),
    isBelowZero(longitudeDeg) ? 'W' : 'E',
  ];
}
