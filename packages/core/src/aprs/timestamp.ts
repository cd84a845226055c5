import type { Timestamp } from './report.js';

/** 1.0.1, "Time formats": DDHHMMz, DDHHMM/, HHMMSSh: 7 characters; MDHM, 8 without suffix, in positionless weather. */
const SUFFIXES: Record<string, Exclude<Timestamp['form'], 'mdhm'>> = {
  z: 'dhm-zulu',
  '/': 'dhm-local',
  h: 'hms',
};
type Part = 'month' | 'day' | 'hour' | 'minute' | 'second';
/** The two-digit parts of each form, in their order. */
const PARTS: Record<Timestamp['form'], readonly Part[]> = {
  'dhm-zulu': ['day', 'hour', 'minute'],
  'dhm-local': ['day', 'hour', 'minute'],
  hms: ['hour', 'minute', 'second'],
  mdhm: ['month', 'day', 'hour', 'minute'],
};
const LARGEST: Record<Part, number> = { month: 12, day: 31, hour: 23, minute: 59, second: 59 };

export const TIME_LENGTH = 7;
/** Of MDHM, which has no suffix. */
export const MDHM_LENGTH = 8;

/** The seven characters at the start of `text`; undefined when they are none. Impossible figures keep the text alone. */
export function readTimestamp(text: string): Timestamp | undefined {
  const match = /^\d{6}([z/h])/.exec(text);
  return match ? timestampOf(SUFFIXES[match[1] as string] as Timestamp['form'], match[0]) : undefined;
}

/** The eight digits at the start of `text`, MDHM in UTC. */
export function readMdhm(text: string): Timestamp | undefined {
  const digits = /^\d{8}/.exec(text)?.[0];
  return digits === undefined ? undefined : timestampOf('mdhm', digits);
}

function timestampOf(form: Timestamp['form'], text: string): Timestamp {
  const parts: Partial<Record<Part, number>> = {};
  for (const [i, part] of PARTS[form].entries()) {
    const value = Number(text.slice(2 * i, 2 * i + 2));
    if (value > LARGEST[part]) return { form, text };
    parts[part] = value;
  }
  return { form, text, ...parts };
}

/** The stamp of that form for a time in UTC. */
export function timestampAt(form: Exclude<Timestamp['form'], 'dhm-local'>, atMs: number): Timestamp {
  const at = new Date(atMs);
  const values: Record<Part, number> = {
    month: at.getUTCMonth() + 1,
    day: at.getUTCDate(),
    hour: at.getUTCHours(),
    minute: at.getUTCMinutes(),
    second: at.getUTCSeconds(),
  };
  const suffix = Object.keys(SUFFIXES).find((key) => SUFFIXES[key] === form) ?? '';
  return timestampOf(
    form,
    PARTS[form].map((part) => String(values[part]).padStart(2, '0')).join('') + suffix,
  );
}
