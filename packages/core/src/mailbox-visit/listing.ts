import { parseCallSign } from '../callsign/callsign.js';
import { isMalformed } from '../bits/malformed.js';
import { stripEscapes } from '../terminal/escapes.js';

/** One message as a mailbox lists it. */
export interface Row {
  readonly number: number;
  readonly status?: string;
  readonly size?: number;
  readonly to: string;
  readonly from: string;
  readonly date?: string;
  readonly subject: string;
}

export interface Listing {
  readonly rows: readonly Row[];
  /** It printed no heading that says which call is which: addressee before sender is assumed. */
  readonly isGuess: boolean;
}

type Column = 'number' | 'status' | 'size' | 'to' | 'from' | 'at' | 'date' | 'time' | 'subject';

const HEADINGS: readonly (readonly [RegExp, Column])[] = [
  [/^(?:msg|no|nr|num|number|n|#)[#.:]?$/i, 'number'],
  [/^(?:st|stat|status|type|typ|ty|flags?|ts|tsld)$/i, 'status'],
  [/^(?:size|bytes|octets|len|length)$/i, 'size'],
  [/^(?:to|for|an)$/i, 'to'],
  [/^(?:from|fm|by|von|de)$/i, 'from'],
  [/^@(?:bbs|route)?$/i, 'at'],
  [/^(?:date|day|datum|date\/time)$/i, 'date'],
  [/^(?:time|utc)$/i, 'time'],
  [/^(?:subject|subj|title|titel|about)$/i, 'subject'],
];

const USUAL: readonly Column[] = ['number', 'status', 'size', 'to', 'from', 'date', 'subject'];

/** The last listing in what came, or nothing where no row looks like one. */
export function parseListing(text: string): Listing | undefined {
  const lines = stripEscapes(text).split(/[\r\n]+/);
  const headings = lines.map(headingOf);
  const at = headings.findLastIndex((columns) => columns !== undefined);
  const columns = at < 0 ? undefined : headings[at];
  // Without a heading any line with a number may look like a row: a sender is a call.
  const isRow = ({ from }: Row): boolean => columns !== undefined || isCall(from);
  const rows = lines
    .slice(at + 1)
    .flatMap((line) => rowOf(line, columns ?? USUAL) ?? [])
    .filter(isRow);
  if (rows.length === 0 && columns === undefined) return undefined;
  return { rows, isGuess: columns === undefined };
}

function headingOf(line: string): readonly Column[] | undefined {
  const words = line.trim().split(/\s+/);
  const columns = words.flatMap((word) => HEADINGS.find(([form]) => form.test(word))?.[1] ?? []);
  const has = (column: Column): boolean => columns.includes(column);
  return columns.length === words.length && has('number') && has('to') && has('from') ? columns : undefined;
}

function rowOf(line: string, columns: readonly Column[]): Row | undefined {
  const words = line.trim().split(/\s+/);
  const row: { -readonly [Key in keyof Row]?: Row[Key] } = {};
  for (const [i, column] of columns.entries()) {
    const word = words[0] ?? '';
    if (column === 'subject') {
      row.subject = words.join(' ');
      break;
    }
    if (!fits(column, word)) {
      if (column === 'number' || column === 'to' || column === 'from') return undefined;
      continue;
    }
    words.shift();
    if (column === 'number') row.number = Number(word.replace(/[#.:]/g, ''));
    else if (column === 'size') row.size = Number(word);
    else if (column === 'status') row.status = word;
    else if (column === 'to') row.to = word.toUpperCase();
    else if (column === 'from') row.from = word.toUpperCase();
    else if (column === 'date') {
      // A month may stand apart, and a time behind it without a heading of its own.
      const more =
        words[0] !== undefined && /^[A-Za-z]{3}$|^\d{1,2}-?[A-Za-z]{3}$/.test(words[0])
          ? [words.shift()]
          : [];
      if (columns[i + 1] !== 'time' && /^\d{1,2}:?\d{2}z?$/i.test(words[0] ?? '')) more.push(words.shift());
      row.date = [word, ...more].join(' ');
    } else if (column === 'time') row.date = `${row.date ?? ''} ${word}`.trim();
  }
  const { number, to, from, subject = '' } = row;
  return number === undefined || to === undefined || from === undefined
    ? undefined
    : { ...row, number, to, from, subject };
}

function fits(column: Column, word: string): boolean {
  switch (column) {
    case 'number':
      return /^#?\d{1,7}[.:]?$/.test(word);
    case 'size':
      return /^\d{1,7}$/.test(word);
    case 'status':
      return /^[A-Z$*#-]{1,4}$/i.test(word) && !isCall(word);
    case 'to':
      return /^[A-Z0-9-]{1,9}$/i.test(word) && !/^\d+$/.test(word);
    case 'from':
      return /^[A-Z0-9-]{1,9}$/i.test(word) && !/^\d+$/.test(word);
    case 'at':
      return word.startsWith('@');
    case 'date':
      return /^\d{1,4}[-./]\d{1,2}|^\d{1,2}-?[A-Za-z]{3}|^\d{6}$|^\d{1,2}$|^\d{4}$/.test(word);
    case 'time':
      return /^\d{1,2}:?\d{2}z?$/i.test(word);
    case 'subject':
      return true;
  }
}

const isCall = (word: string): boolean => /\d/.test(word) && !isMalformed(parseCallSign(word));

/** What a message stays while its number moves. */
export const identityOf = ({ from, to, subject }: Pick<Row, 'from' | 'to' | 'subject'>): string =>
  `${from}>${to}: ${subject.trim().toLowerCase().slice(0, 20)}`;
