import { isMalformed } from '../bits/malformed.js';
import { parseLocator } from '../geo/locator.js';
import type { AprsReport } from './report.js';
import { readTimestamp } from './timestamp.js';

/** 1.0.1, "Status reports": `>`, perhaps a time or a locator with symbol, text, perhaps `^` heading and power at the end. */
const LOCATED = /^([A-R]{2}\d{2}(?:[A-Xa-x]{2})?)([/\\A-Z0-9])([!-~])(?: (.*))?$/s;
const BEAM = /\^([0-9A-Z])([0-9A-Z])$/;

export function readStatus(info: string): AprsReport {
  const timestamp = readTimestamp(info.slice(1));
  const text = info.slice(1 + (timestamp?.text.length ?? 0));
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

/** Heading in tens of degrees, 0–9 then A–Z; effective radiated power 10·n² W (1.0.1, "Beam heading and ERP"). */
function readBeam(heading: string, power: string): NonNullable<AprsReport['beam']> {
  const figure = (character: string): number => Number.parseInt(character, 36);
  return { headingDeg: figure(heading) * 10, erpW: 10 * figure(power) ** 2 };
}

export function encodeStatus({ timestamp, locator, symbol, status = '', beam }: AprsReport): string {
  const place = locator && symbol ? `${locator}${symbol.table}${symbol.code}${status === '' ? '' : ' '}` : '';
  const character = (value: number): string => Math.round(value).toString(36).toUpperCase();
  const tail = beam ? `^${character(beam.headingDeg / 10)}${character(Math.sqrt(beam.erpW / 10))}` : '';
  return `>${timestamp?.text ?? ''}${place}${status}${tail}`;
}
