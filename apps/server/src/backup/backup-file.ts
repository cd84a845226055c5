import { createHash } from 'node:crypto';
import { createInterface } from 'node:readline';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import type { Sealed } from '../mail/secrets.js';

/**
 * A backup is gzip (RFC 1952) of lines of JSON: a head, one line for each row of each table, the secrets sealed as one, and an
 * end with the number of rows and the SHA-256 of all that stands before it.
 */
export const FORMAT = 'mistpeak backup';
export const VERSION = 1;

export interface Head {
  readonly format: typeof FORMAT;
  readonly version: number;
  /** The last change of the tables that it knows. */
  readonly migration: string;
  readonly atMs: number;
  readonly call: string;
  readonly withFrames: boolean;
}

export type Row = Readonly<Record<string, unknown>>;

export type Line =
  | { readonly head: Head }
  | { readonly table: string; readonly row: Row }
  | { readonly secrets: Sealed }
  | { readonly end: { readonly rows: number; readonly sha256: string } };

/** What is wrong with a file, in words. */
export class BrokenBackup extends Error {}

/** The lines as they are written, with their end. */
export async function* writeLines(
  lines: AsyncIterable<Exclude<Line, { end: unknown }>>,
): AsyncGenerator<string> {
  const hash = createHash('sha256');
  let rows = 0;
  for await (const line of lines) {
    const text = `${JSON.stringify(line)}\n`;
    hash.update(text);
    if ('row' in line) rows++;
    yield text;
  }
  yield `${JSON.stringify({ end: { rows, sha256: hash.digest('hex') } })}\n`;
}

const LONGEST_LINE = 40_000_000;

/** The lines of a file, checked as they pass: whoever has come to the end has read all of it. Throws BrokenBackup. */
export async function* readLines(file: Readable): AsyncGenerator<Exclude<Line, { end: unknown }>> {
  const hash = createHash('sha256');
  let rows = 0;
  let isFirst = true;
  for await (const text of textLines(file)) {
    if (text.length > LONGEST_LINE) throw new BrokenBackup('a line of it is longer than any row');
    const line = parse(text);
    if (isFirst) checkHead(line);
    isFirst = false;
    if ('end' in line) {
      if (line.end.rows !== rows || line.end.sha256 !== hash.digest('hex'))
        throw new BrokenBackup('it was changed or damaged: its sum does not fit');
      return;
    }
    hash.update(`${text}\n`);
    if ('row' in line) rows++;
    yield line;
  }
  throw new BrokenBackup('its end is missing: it was not fetched whole');
}

async function* textLines(file: Readable): AsyncGenerator<string> {
  const unzipped = createGunzip();
  // An error of the one is an error of the other; it is told where it is read.
  const piped = pipeline(file, unzipped).catch(() => undefined);
  try {
    yield* createInterface({ input: unzipped, crlfDelay: Infinity });
    if (unzipped.errored) throw unzipped.errored;
  } catch {
    throw new BrokenBackup('it is no backup, or damaged: it cannot be unpacked');
  } finally {
    unzipped.destroy();
    await piped;
  }
}

function parse(text: string): Line {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new BrokenBackup('it is no backup of Mistpeak');
  }
  if (typeof value !== 'object' || value === null) throw new BrokenBackup('it is no backup of Mistpeak');
  const line = value as Partial<Record<string, unknown>>;
  const isKnown =
    isRecord(line.head) ||
    (typeof line.table === 'string' && isRecord(line.row)) ||
    isRecord(line.secrets) ||
    isRecord(line.end);
  if (!isKnown) throw new BrokenBackup('it is no backup of Mistpeak');
  return value as Line;
}

const isRecord = (value: unknown): boolean =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

function checkHead(line: Line): void {
  const { format, version } = ('head' in line ? line.head : {}) as Partial<Head>;
  if (format !== FORMAT) throw new BrokenBackup('it is no backup of Mistpeak');
  if (version !== VERSION) throw new BrokenBackup('it was made by a newer Mistpeak than this one');
}
