import { isMalformed } from '../bits/malformed.js';
import { parseLocator } from '../geo/locator.js';
import type { AprsReport } from './report.js';
import { readTimestamp } from './timestamp.js';

/** 1.0.1, "Status reports": `>`, perhaps a time or a locator with symbol, text, perhaps `^` heading and power at the end. */
const LOCATED = /^([A-R]{2}\d{2}(?:[A-Xa-x]{2})?)([/\\A-Z0-9])([!-~])(?: (.*))?$/s;
/** Heading `0`–`9`, `A`–`Z`; power `0` to `K` with all that lies between them. */
const BEAM = /\^([0-9A-Z])([0-K])$/;

export function readStatus(info: string): AprsReport {
  // 1.0.1, "Status reports": the time can only be DHM zulu; other figures are the sender's words.
  const time = readTimestamp(info.slice(1));
  const timestamp = time?.form === 'dhm-zulu' ? time : undefined;
  const text = info.slice(1 + (timestamp?.text.length ?? 0)).replace(/[\r\n]+$/, '');
  const beam = BEAM.exec(text);
  const words = beam ? text.slice(0, beam.index) : text;
  const located = timestamp ? undefined : readLocator(words);
  return {
    type: 'status',
    ...(timestamp ? { timestamp } : {}),
    ...(located?.facts ?? {}),
    status: (located ? located.text : words).trimEnd(),
    ...(beam ? { beam: readBeam(beam[1] as string, beam[2] as string) } : {}),
  };
}

function readLocator(text: string): { facts: Partial<AprsReport>; text: string } | undefined {
  const match = LOCATED.exec(text);
  const centre = match && parseLocator(match[1] as string);
  if (!match || !centre || isMalformed(centre)) return undefined;
  const symbol = { table: match[2] as string, code: match[3] as string };
  return { facts: { locator: match[1] as string, ...centre, symbol }, text: match[4] ?? '' };
}

/** Heading in tens of degrees, 0–9 then A–Z; effective radiated power 10·(code − 48)² W (1.0.1, "Beam heading and ERP"). */
function readBeam(heading: string, power: string): NonNullable<AprsReport['beam']> {
  return {
    headingDeg: Number.parseInt(heading, 36) * 10,
    erpW: 10 * (power.charCodeAt(0) - POWER_ZERO) ** 2,
  };
}

const POWER_ZERO = 48;
const MOST_POWER = 27;

const headingCode = (headingDeg: number): string =>
  Math.round(headingDeg / 10)
    .toString(36)
    .toUpperCase();

const powerCode = (erpW: number): string =>
  String.fromCharCode(POWER_ZERO + Math.min(MOST_POWER, Math.round(Math.sqrt(erpW / 10))));

export function encodeStatus({ timestamp, locator, symbol, status = '', beam }: AprsReport): string {
  const place = locator && symbol ? `${locator}${symbol.table}${symbol.code}${status === '' ? '' : ' '}` : '';
  const tail = beam ? `^${headingCode(beam.headingDeg)}${powerCode(beam.erpW)}` : '';
  return `>${timestamp?.text ?? ''}${place}${status}${tail}`;
}
