import { isMalformed, type Malformed } from '../bits/malformed.js';
import { COMPRESSED_LENGTH, decodeCompressedPosition } from './compressed-position.js';
import { readAltitude, readExtension } from './extension.js';
import { decodePlainPosition, PLAIN_LENGTH } from './plain-position.js';
import type { AprsReport } from './report.js';
import { readWeather } from './weather.js';

const WEATHER_SYMBOL = '_';

/** A position in either form, and all that may follow it: extension, weather, altitude, comment. */
export function readLocated(text: string): Partial<AprsReport> | Malformed {
  return /^[\d ]/.test(text) ? readPlain(text) : readCompressed(text);
}

function readPlain(text: string): Partial<AprsReport> | Malformed {
  const position = decodePlainPosition(text);
  if (isMalformed(position)) return position;
  const { ambiguityDigits, ...place } = position;
  const located = ambiguityDigits === 0 ? place : { ...place, ambiguityDigits };
  const after = text.slice(PLAIN_LENGTH);
  if (place.symbol.code === WEATHER_SYMBOL) return { ...located, ...withWeather(after) };
  const { facts, rest } = readExtension(after);
  return { ...located, ...facts, ...withComment(rest) };
}

function readCompressed(text: string): Partial<AprsReport> | Malformed {
  const position = decodeCompressedPosition(text);
  if (isMalformed(position)) return position;
  const after = text.slice(COMPRESSED_LENGTH);
  if (position.symbol.code !== WEATHER_SYMBOL) return { ...position, ...withComment(after) };
  const { courseDeg, speedMps, ...place } = position;
  const report = { ...place, ...withWeather(after) };
  // A compressed weather report carries the wind in its course and speed (1.0.1, "Complete weather report").
  if (courseDeg !== undefined && report.weather) {
    report.weather.windDirectionDeg = courseDeg;
    report.weather.windSpeedMps = speedMps ?? 0;
  }
  return report;
}

function withWeather(text: string): Partial<AprsReport> {
  const { weather, rest } = readWeather(text);
  return { weather, ...withComment(rest) };
}

function withComment(text: string): Partial<AprsReport> {
  const { facts, rest } = readAltitude(text);
  const comment = rest.trim();
  return comment === '' ? facts : { ...facts, comment };
}
