import Papa from 'papaparse';
import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { formatCallSign, parseCallSign } from '../callsign/callsign.js';
import { parsePlace } from '../geo/place.js';
import type { Position } from '../geo/position.js';
import { typedNumber } from '../units/typed-number.js';
import { FACILITY_KINDS, type FacilityFacts, type FacilityKind } from './facility.js';

/** What a column can be. MHz, kHz and Hz are told apart by its name, or by the operator. */
export const COLUMN_MEANINGS = [
  'kind',
  'call',
  'ssid',
  'MHz',
  'kHz',
  'Hz',
  'mode',
  'baud',
  'place',
  'latitude',
  'longitude',
  'height',
  'hours',
  'tone',
  'shift',
  'reliability',
  'quality',
  'notes',
] as const;
export type ColumnMeaning = (typeof COLUMN_MEANINGS)[number];

/** By the name of the column in the file. A column that is not there means nothing. */
export type ColumnMapping = Readonly<Record<string, ColumnMeaning>>;

/** A file as rows: each by the names of its columns. */
export interface Rows {
  readonly columns: readonly string[];
  readonly rows: readonly Readonly<Record<string, string>>[];
}

export const LONGEST_LIST = 20_000_000;
export const MOST_ROWS = 50_000;

/** CSV (RFC 4180) with a line of names, whichever of comma, semicolon and tab parts it; or JSON: a list of objects. */
export function readRows(text: string): Rows | Malformed {
  if (text.length > LONGEST_LIST) return malformed('it is longer than any list of gateways');
  const trimmed = text.replace(/^\uFEFF/, '').trim();
  if (trimmed === '') return malformed('it is empty');
  return trimmed.startsWith('[') || trimmed.startsWith('{') ? jsonRows(trimmed) : csvRows(trimmed);
}

function csvRows(text: string): Rows | Malformed {
  const { data, meta } = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: 'greedy',
    preview: MOST_ROWS + 1,
    transformHeader: (name) => name.trim(),
  });
  const columns = (meta.fields ?? []).filter((name) => name !== '');
  if (columns.length < 2) return malformed('it has no line of column names with at least two of them');
  if (data.length > MOST_ROWS) return malformed(`it has more than ${MOST_ROWS} rows`);
  return { columns, rows: data.map((row) => wordsOf(row, columns)) };
}

function jsonRows(text: string): Rows | Malformed {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return malformed('it begins like JSON and is none');
  }
  // Often the list stands within one object, under a name of its own.
  const list = Array.isArray(value) ? value : Object.values(value as object).find(Array.isArray);
  const rows = (list ?? []).filter(
    (row): row is Record<string, unknown> => typeof row === 'object' && row !== null && !Array.isArray(row),
  );
  if (rows.length === 0) return malformed('there is no list of objects in it');
  if (rows.length > MOST_ROWS) return malformed(`it has more than ${MOST_ROWS} rows`);
  const columns = [...new Set(rows.slice(0, 1000).flatMap((row) => Object.keys(row)))];
  return { columns, rows: rows.map((row) => wordsOf(row, columns)) };
}

const wordsOf = (
  row: Readonly<Record<string, unknown>>,
  columns: readonly string[],
): Record<string, string> =>
  Object.fromEntries(
    columns.map((name) => {
      const value = row[name];
      return [
        name,
        typeof value === 'string' ? value.trim() : typeof value === 'number' ? String(value) : '',
      ];
    }),
  );

/** Names that columns usually have (common practice, no source); the first that fits counts. */
const USUAL_NAMES: readonly (readonly [RegExp, ColumnMeaning])[] = [
  [/^(base)?call( ?sign)?$|^station$|^gateway$|^name$/i, 'call'],
  [/^ssid$/i, 'ssid'],
  [/khz/i, 'kHz'],
  [/mhz/i, 'MHz'],
  [/\bhz\b/i, 'Hz'],
  [/^(freq(uency)?|qrg|output|downlink|rx ?freq)/i, 'MHz'],
  [/^(tone|ctcss|pl)/i, 'tone'],
  [/^(shift|offset|duplex)/i, 'shift'],
  [/^(loc(ator)?|grid( ?square)?|qth|place|position|maidenhead)/i, 'place'],
  [/^lat/i, 'latitude'],
  [/^(lon|lng)/i, 'longitude'],
  [/^(height|haat|agl|antenna height)/i, 'height'],
  [/^(hours|operating|schedule|time)/i, 'hours'],
  [/^(baud|speed|rate)/i, 'baud'],
  [/^(mode|modulation)/i, 'mode'],
  [/^(type|kind|service)/i, 'kind'],
  [/^reliab/i, 'reliability'],
  [/^qual/i, 'quality'],
  [/^(note|comment|remark|info)/i, 'notes'],
];

/** What the columns seem to be; the operator puts it right. */
export function guessMapping(columns: readonly string[]): ColumnMapping {
  const mapping: Record<string, ColumnMeaning> = {};
  for (const column of columns) {
    const meaning = USUAL_NAMES.find(([name]) => name.test(column.replace(/_/g, ' ')))?.[1];
    if (meaning && !Object.values(mapping).includes(meaning)) mapping[column] = meaning;
  }
  return mapping;
}

/** The row as it was read, or why it was left out. */
export type RowRead = FacilityFacts | { readonly row: number; readonly why: string };

export const isLeftOut = (read: RowRead): read is { readonly row: number; readonly why: string } =>
  'why' in read;

/** Each row by the mapping. usualKind: of rows that do not say. A row without call or frequency is left out, with the reason. */
export function readList({ rows }: Rows, mapping: ColumnMapping, usualKind: FacilityKind): RowRead[] {
  const columnOf = new Map(Object.entries(mapping).map(([column, meaning]) => [meaning, column]));
  return rows.map((row, i) => {
    const text = (meaning: ColumnMeaning): string => row[columnOf.get(meaning) ?? ''] ?? '';
    const read = factsOf(text, usualKind);
    return typeof read === 'string' ? { row: i + 1, why: read } : read;
  });
}

type TextOf = (meaning: ColumnMeaning) => string;

function factsOf(text: TextOf, usualKind: FacilityKind): FacilityFacts | string {
  const written = text('call').toUpperCase();
  const ssid = text('ssid');
  const call = parseCallSign(ssid === '' || written.includes('-') ? written : `${written}-${ssid}`);
  if (isMalformed(call)) return written === '' ? 'no call' : `“${written}” is no call`;
  const frequencyMHz = frequencyOf(text);
  if (frequencyMHz === undefined) return 'no frequency';
  if (!(frequencyMHz >= 1 && frequencyMHz <= 10_000)) return `${frequencyMHz} MHz is no frequency of a radio`;
  const position = positionOf(text);
  if (typeof position === 'string') return position;
  const number = (meaning: ColumnMeaning): number | undefined => {
    const value = typedNumber(text(meaning));
    return text(meaning) !== '' && Number.isFinite(value) ? value : undefined;
  };
  const percent = (meaning: ColumnMeaning): number | undefined => {
    const value = number(meaning);
    return value !== undefined && value >= 0 && value <= 100 ? value : undefined;
  };
  const optional = {
    baud: number('baud'),
    position,
    heightM: number('height'),
    toneHz: number('tone') || undefined,
    shiftMHz: number('shift'),
    reliabilityPercent: percent('reliability'),
    qualityPercent: percent('quality'),
  };
  return {
    kind: kindOf(text('kind')) ?? usualKind,
    call: formatCallSign(call),
    frequencyMHz,
    mode: text('mode'),
    hours: text('hours'),
    notes: text('notes'),
    ...Object.fromEntries(Object.entries(optional).filter(([, value]) => value !== undefined)),
  };
}

/** A figure of a list without a unit is told by its size: no list names a frequency below 1.8 MHz or above 10 GHz. */
function frequencyOf(text: TextOf): number | undefined {
  for (const [meaning, factor] of [
    ['MHz', 1],
    ['kHz', 1e-3],
    ['Hz', 1e-6],
  ] as const) {
    const value = typedNumber(text(meaning).replace(/\s*[kM]?Hz$/i, ''));
    if (text(meaning) === '' || !Number.isFinite(value)) continue;
    const mhz = value * factor;
    if (meaning !== 'MHz') return round(mhz);
    return round(mhz > 1e6 ? mhz / 1e6 : mhz > 10_000 ? mhz / 1000 : mhz);
  }
  return undefined;
}

const round = (mhz: number): number => Math.round(mhz * 1e6) / 1e6;

function positionOf(text: TextOf): Position | string | undefined {
  if (text('place') !== '') {
    const place = parsePlace(text('place'));
    return isMalformed(place) ? undefined : place;
  }
  if (text('latitude') === '' || text('longitude') === '') return undefined;
  const [latitudeDeg, longitudeDeg] = [typedNumber(text('latitude')), typedNumber(text('longitude'))];
  if (!(Math.abs(latitudeDeg) <= 90 && Math.abs(longitudeDeg) <= 180)) return undefined;
  return { latitudeDeg, longitudeDeg };
}

/** A kind by the words of a list. */
function kindOf(text: string): FacilityKind | undefined {
  const known = FACILITY_KINDS.find((kind) => kind === text.toLowerCase());
  if (known) return known;
  if (/digi/i.test(text)) return 'digipeater';
  if (/mail ?box|bbs/i.test(text)) return 'mailbox';
  if (/node/i.test(text)) return 'node';
  if (/repeater|voice/i.test(text)) return 'voice repeater';
  if (/gateway|mail|rms/i.test(text)) return 'mail gateway';
  return undefined;
}
