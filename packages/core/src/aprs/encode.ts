import { fromLatin1 } from '../bits/octets.js';
import { destinationOfSymbol } from './destination-symbol.js';
import { encodeMessage, encodeReceipt } from './message.js';
import { encodeMicE } from './mic-e.js';
import { encodeNmea } from './nmea.js';
import { encodeItem, encodeObjectReport } from './object.js';
import { encodePosition } from './position-report.js';
import { encodeCapabilities, encodeQuery } from './query.js';
import type { AprsReport, Message } from './report.js';
import { encodeStatus } from './status.js';
import { encodeTelemetry, encodeTelemetryDefinition } from './telemetry.js';
import { encodeThirdParty } from './third-party.js';
import { encodeWeather } from './weather.js';

/** An info field, and the destination where it carries a part of the report (Mic-E, the symbol of NMEA data). */
export interface EncodedReport {
  readonly info: Uint8Array;
  readonly destination?: string;
}

/**
 * A report as an info field: the inverse of parseAprs, each quantity rounded to what the form can carry.
 * Throws RangeError when a fact is missing that the kind needs, or a text has characters above one octet.
 */
export function encodeAprs(report: AprsReport): EncodedReport {
  if (report.type === 'mic-e') {
    const { info, destination } = encodeMicE(report);
    return { info: fromLatin1(info), destination };
  }
  if (report.type === 'nmea' && report.symbol)
    return { info: fromLatin1(encodeNmea(report)), destination: destinationOfSymbol(report.symbol) };
  return { info: fromLatin1(infoOf(report)) };
}

function infoOf(report: AprsReport): string {
  switch (report.type) {
    case 'position':
      return report.locator === undefined
        ? encodePosition(report)
        : `[${report.locator}]${report.comment === undefined ? '' : ` ${report.comment}`}`;
    case 'weather':
      return encodeAnyWeather(report);
    case 'object':
      return encodeObjectReport(report);
    case 'item':
      return encodeItem(report);
    case 'message':
    case 'bulletin':
    case 'announcement':
      return encodeText(needed(report.message, 'a message'));
    case 'ack':
    case 'rej':
      return encodeReceipt(report.type, needed(report.message, 'a message'));
    case 'telemetry':
      return encodeTelemetry(needed(report.telemetry, 'telemetry'), report.comment);
    case 'telemetry-definition': {
      const { addressee, text } = needed(report.message, 'the station meant');
      const definition = needed(report.telemetryDefinition, 'a definition');
      return encodeMessage(addressee, text ?? encodeTelemetryDefinition(definition));
    }
    case 'status':
      return encodeStatus(report);
    case 'query':
      return encodeQuery(needed(report.query, 'a query'));
    case 'capabilities':
      return encodeCapabilities(needed(report.capabilities, 'capabilities'));
    case 'third-party':
      return encodeInner(report);
    case 'nmea':
      return encodeNmea(report);
    case 'user-defined': {
      const { userId, packetType, data } = needed(report.userDefined, 'user-defined data');
      return `{${userId}${packetType}${data}`;
    }
    case 'mic-e':
    case 'unknown':
      throw new RangeError(`there is no info field of its own for ${report.type}`);
  }
}

function needed<T>(fact: T | undefined, what: string): T {
  if (fact === undefined) throw new RangeError(`the report has no ${what}`);
  return fact;
}

function encodeText({ addressee, text = '', number, replyAck }: Message): string {
  return encodeMessage(addressee, text, number, replyAck);
}

/** Where a time could not be read, none is made up (MDHM). */
const UNKNOWN_TIME = '........';

/** With a position, without one, or a station's raw line. */
function encodeAnyWeather(report: AprsReport): string {
  if (report.rawWeather) return report.rawWeather.form + report.rawWeather.fields;
  if (report.latitudeDeg !== undefined) return encodePosition(report);
  const { timestamp, weather, comment = '' } = report;
  return `_${timestamp?.text ?? UNKNOWN_TIME}${encodeWeather(needed(weather, 'weather'), 'c')}${comment}`;
}

function encodeInner(report: AprsReport): string {
  const { source, destination, path, report: inner } = needed(report.thirdParty, 'packet inside');
  // A Mic-E report names its own destination.
  if (inner.type === 'mic-e') {
    const mic = encodeMicE(inner);
    return encodeThirdParty(source, mic.destination, path, mic.info);
  }
  return encodeThirdParty(source, destination, path, infoOf(inner));
}
