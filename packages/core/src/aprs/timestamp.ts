import type { Timestamp } from './report.js';

/** 1.0.1, "Time formats": DDHHMMz, DDHHMM/, HHMMSSh: 7 characters. MDHM (8) stands in weather alone. */
const SUFFIXES: Record<string, Timestamp['form']> = { z: 'dhm-zulu', '/': 'dhm-local', h: 'hms' };

export function readTimestamp(text: string): Timestamp | undefined {
  const match = /^(\d{6})([z/h])/.exec(text);
  if (!match) return undefined;
  const form = SUFFIXES[match[2] as string] as Timestamp['form'];
  return { form, text: match[0] };
}

/** DDHHMMz of a time in UTC. */
export function zuluTimestamp(atMs: number): string {
  const [, day, hour, minute] = /-(\d\d)T(\d\d):(\d\d)/.exec(isoOf(atMs)) as unknown as string[];
  return `${day}${hour}${minute}z`;
}

function isoOf(atMs: number): string {
  return new Date(atMs).toISOString();
}
