import { isMalformed, type Malformed } from '../bits/malformed.js';
import { encodeArea, isAreaSymbol, takeArea } from './area.js';
import { encodeComment, readComment } from './comment.js';
import {
  carriesAltitude,
  COMPRESSED_LENGTH,
  decodeCompressedPosition,
  encodeCompressedPosition,
} from './compressed-position.js';
import { encodeBearing, encodeExtension, takeBearing, takeExtension } from './extension.js';
import { decodePlainPosition, encodePlainPosition, PLAIN_LENGTH } from './plain-position.js';
import type { AprsReport, AprsSymbol } from './report.js';
import { encodeStorm, takeStorm } from './storm.js';
import { encodeWeather, readWeather } from './weather.js';

const WEATHER_SYMBOL = '_';

/**
 * A position in either form, and all that may follow it, into the report: extension, weather, storm, area, comment.
 * An object's or item's name stands in it already. Undefined when it was read.
 */
export function readLocated(text: string, into: AprsReport): Malformed | undefined {
  return /^[\d ]/.test(text) ? readPlain(text, into) : readCompressed(text, into);
}

function readPlain(text: string, into: AprsReport): Malformed | undefined {
  const position = decodePlainPosition(text);
  if (isMalformed(position)) return position;
  into.latitudeDeg = position.latitudeDeg;
  into.longitudeDeg = position.longitudeDeg;
  into.symbol = position.symbol;
  if (position.ambiguityDigits > 0) into.ambiguityDigits = position.ambiguityDigits;
  const after = text.slice(PLAIN_LENGTH);
  if (position.symbol.code === WEATHER_SYMBOL && readWithWeather(after, into)) return undefined;
  const rest = isAreaSymbol(position.symbol) ? takeArea(after, into) : after;
  readSpecial(into.area ? rest : takeExtension(after, into), into);
  return undefined;
}

function readCompressed(text: string, into: AprsReport): Malformed | undefined {
  const position = decodeCompressedPosition(text);
  if (isMalformed(position)) return position;
  const after = text.slice(COMPRESSED_LENGTH);
  const { courseDeg, speedMps, ...place } = position;
  Object.assign(into, place);
  const hasWind = courseDeg !== undefined && speedMps !== undefined;
  if (position.symbol.code === WEATHER_SYMBOL && readWithWeather(after, into, hasWind)) {
    // A compressed weather report carries the wind in its course and speed (1.0.1, "Complete weather report").
    const weather = into.weather ?? {};
    if (courseDeg !== undefined) weather.windDirectionDeg ??= courseDeg;
    if (speedMps !== undefined) weather.windSpeedMps ??= speedMps;
    return undefined;
  }
  if (courseDeg !== undefined) into.courseDeg = courseDeg;
  if (speedMps !== undefined) into.speedMps = speedMps;
  readSpecial(takeBearing(after, into), into);
  return undefined;
}

/** False when nothing of the weather was said: the symbol alone makes no weather report. */
function readWithWeather(text: string, into: AprsReport, hasWind = false): boolean {
  const { weather, rest } = readWeather(text, hasWind);
  if (rest.length === text.length) return false;
  into.weather = weather;
  readComment(rest, into);
  return true;
}

/** What only some symbols have behind the extension: a storm's figures, the text of a signpost; then the comment. */
function readSpecial(text: string, into: AprsReport): void {
  const rest = takeStorm(text, into);
  const signpost = isSignpost(into.symbol) ? /\{(.{1,3})\}/s.exec(rest) : null;
  if (!signpost) return readComment(rest, into);
  into.signpost = signpost[1] as string;
  readComment(rest.slice(0, signpost.index) + rest.slice(signpost.index + signpost[0].length), into);
}

function isSignpost(symbol: AprsSymbol | undefined): boolean {
  return symbol?.table === '\\' && symbol.code === 'm';
}

/**
 * Position and all that follows it, in the compressed form where the report has one.
 * Throws RangeError without a position or symbol: that is a caller's mistake.
 */
export function encodeLocated(report: AprsReport): string {
  const { latitudeDeg, longitudeDeg, symbol } = report;
  if (latitudeDeg === undefined || longitudeDeg === undefined || !symbol)
    throw new RangeError('a position report needs position and symbol');
  const position = { latitudeDeg, longitudeDeg };
  if (report.compression) {
    const wind = report.weather ? windOf(report) : {};
    const place = encodeCompressedPosition(position, symbol, { ...report, ...wind });
    const weather = report.weather
      ? encodeWeather(withoutWind(report.weather), report.weather.windSpeedMps === undefined ? '' : 'told')
      : '';
    const rest = encodeComment(report, { withoutAltitude: carriesAltitude(report) });
    const bearing = report.bearing ? encodeBearing(report.bearing) : '';
    return place + weather + bearing + special(report) + rest;
  }
  const place = encodePlainPosition(position, symbol, report.ambiguityDigits, report.dao !== undefined);
  if (report.weather) return place + encodeWeather(report.weather, '/') + encodeComment(report);
  if (report.area) return place + encodeArea(report.area) + encodeComment(report);
  return place + encodeExtension(report) + special(report) + encodeComment(report);
}

function windOf({ weather }: AprsReport): Partial<AprsReport> {
  const { windDirectionDeg, windSpeedMps } = weather ?? {};
  return {
    ...(windDirectionDeg === undefined ? {} : { courseDeg: windDirectionDeg }),
    ...(windSpeedMps === undefined ? {} : { speedMps: windSpeedMps }),
  };
}

function withoutWind({
  windDirectionDeg: _d,
  windSpeedMps: _s,
  ...rest
}: NonNullable<AprsReport['weather']>) {
  return rest;
}

function special({ storm, signpost }: AprsReport): string {
  return (storm ? encodeStorm(storm) : '') + (signpost === undefined ? '' : `{${signpost}}`);
}
