import { readNmea } from '../aprs/nmea.js';
import { isMalformed } from '../bits/malformed.js';
import type { Position } from '../geo/position.js';

/** What one line of a position receiver tells; a part is left out where the line does not tell it. */
export interface GpsFact {
  readonly position?: Position;
  readonly speedMps?: number;
  readonly courseDeg?: number;
  readonly altitudeM?: number;
  /** UTC, ms since 1970. */
  readonly timeMs?: number;
}

/**
 * One line of NMEA 0183, or of the position daemon's JSON protocol (its TPV reports; field names from memory: lat, lon, altMSL or
 * alt in m, speed in m/s, track in degrees, time in ISO 8601, mode 2 or 3 for a fix). Anything else says nothing.
 */
export function readGpsLine(line: string): GpsFact | undefined {
  const text = line.trim();
  if (text.startsWith('{')) return readDaemonLine(text);
  if (!text.startsWith('$')) return undefined;
  const report = readNmea(text, '');
  // Without a checksum a garbled line would move the station.
  if (isMalformed(report) || !report.nmea?.checked) return undefined;
  const fact = factOf(
    report.latitudeDeg,
    report.longitudeDeg,
    report.speedMps,
    report.courseDeg,
    report.altitudeM,
  );
  return withTime(fact, report.nmea.sentence === 'RMC' ? timeOfRmc(text) : undefined);
}

const withTime = (fact: GpsFact | undefined, timeMs: number | undefined): GpsFact | undefined =>
  fact && timeMs !== undefined ? { ...fact, timeMs } : fact;

/** NMEA 0183, RMC: hhmmss in the first field and ddmmyy in the ninth; it began in the eighties. */
function timeOfRmc(text: string): number | undefined {
  const fields = text.split(',');
  const [, hours, minutes, seconds] = /^(\d\d)(\d\d)(\d\d(?:\.\d+)?)$/.exec(fields[1] ?? '') ?? [];
  const [, day, month, year] = /^(\d\d)(\d\d)(\d\d)$/.exec(fields[9] ?? '') ?? [];
  if (hours === undefined || day === undefined) return undefined;
  const fullYear = Number(year) + (Number(year) < 80 ? 2000 : 1900);
  return (
    Date.UTC(fullYear, Number(month) - 1, Number(day), Number(hours), Number(minutes)) +
    Number(seconds) * 1000
  );
}

function readDaemonLine(text: string): GpsFact | undefined {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return undefined;
  }
  const {
    class: kind,
    mode,
    lat,
    lon,
    speed,
    track,
    altMSL,
    alt,
    time,
  } = (value ?? {}) as Readonly<Record<string, unknown>>;
  if (kind !== 'TPV' || !(Number(mode) >= 2)) return undefined;
  const timeMs = typeof time === 'string' ? Date.parse(time) : NaN;
  return withTime(
    factOf(lat, lon, speed, track, altMSL ?? alt),
    Number.isFinite(timeMs) ? timeMs : undefined,
  );
}

function factOf(
  latitude: unknown,
  longitude: unknown,
  speed: unknown,
  course: unknown,
  altitude: unknown,
): GpsFact | undefined {
  const number = (value: unknown): number | undefined =>
    typeof value === 'number' && Number.isFinite(value) ? value : undefined;
  const [latitudeDeg, longitudeDeg] = [number(latitude), number(longitude)];
  const isPlace =
    latitudeDeg !== undefined &&
    longitudeDeg !== undefined &&
    Math.abs(latitudeDeg) <= 90 &&
    Math.abs(longitudeDeg) <= 180;
  const [speedMps, courseDeg, altitudeM] = [number(speed), number(course), number(altitude)];
  const fact: GpsFact = {
    ...(isPlace ? { position: { latitudeDeg, longitudeDeg } } : {}),
    ...(speedMps !== undefined && speedMps >= 0 ? { speedMps } : {}),
    ...(courseDeg !== undefined && courseDeg >= 0 && courseDeg <= 360 ? { courseDeg: courseDeg % 360 } : {}),
    ...(altitudeM === undefined ? {} : { altitudeM }),
  };
  return Object.keys(fact).length === 0 ? undefined : fact;
}

/** Octets in pieces, whole lines out; a line that never ends is dropped. */
export class LineCutter {
  private rest = '';

  push(piece: string): string[] {
    const parts = (this.rest + piece).split(/\r\n|\n|\r/);
    this.rest = parts.pop() ?? '';
    if (this.rest.length > LONGEST_LINE) this.rest = '';
    return parts.filter((line) => line !== '' && line.length <= LONGEST_LINE);
  }
}

/** NMEA lines have 82 characters; a report of the daemon some hundreds. */
const LONGEST_LINE = 4096;
