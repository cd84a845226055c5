import Papa from 'papaparse';
import type { Need } from './standing.js';

/** One line of what happened at the desk. */
export interface DutyEntry {
  readonly id: string;
  /** ms since 1970 UTC. */
  readonly atMs: number;
  readonly kind: 'begun' | 'raised' | 'acknowledged' | 'ended' | 'message' | 'note';
  /** Whom it is about; absent: the desk. */
  readonly call?: string;
  readonly label?: string;
  readonly need?: Need;
  readonly words: string;
}

/** What an alarm says, as the desk speaks. */
export const NEED_WORDS: Readonly<Record<Need, string>> = {
  emergency: 'sends an emergency',
  called: 'called the desk',
  overdue: 'is overdue',
  late: 'is late at the finish',
  off: 'is off the leg',
  still: 'stands still',
};

const KIND_WORDS: Readonly<Record<DutyEntry['kind'], string>> = {
  begun: 'watch begun',
  raised: 'alarm',
  acknowledged: 'acknowledged',
  ended: 'over',
  message: 'message',
  note: 'note',
};

/** What happened, in one phrase: `alarm: is overdue`. */
export function dutyWords({
  kind,
  need,
  words,
}: Pick<DutyEntry, 'kind' | 'words'> & { readonly need?: Need | null | undefined }): string {
  const what = need ? `${KIND_WORDS[kind]}: ${NEED_WORDS[need]}` : KIND_WORDS[kind];
  return words === '' ? what : `${what} – ${words}`;
}

/** RFC 4180, oldest first, times as ISO 8601 UTC. */
export function dutyLogCsv(entries: readonly DutyEntry[]): string {
  const rows = entries.map(({ atMs, kind, call = '', label = '', need = '', words }) => ({
    time: new Date(atMs).toISOString(),
    call,
    label,
    what: KIND_WORDS[kind],
    alarm: need,
    words: oneLine(words),
  }));
  const fields = ['time', 'call', 'label', 'what', 'alarm', 'words'];
  return `${Papa.unparse({ fields, data: rows }, { newline: '\r\n', escapeFormulae: true })}\r\n`;
}

/** A table for people, oldest first, times in UTC. */
export function dutyLogMarkdown(name: string, entries: readonly DutyEntry[]): string {
  const rows = entries.map((entry) => {
    const time = new Date(entry.atMs).toISOString().slice(0, 19).replace('T', ' ');
    const who = entry.call === undefined ? '' : [entry.label, entry.call].filter(Boolean).join(', ');
    return `| ${time} | ${cell(who)} | ${cell(dutyWords(entry))} |`;
  });
  return [`# Duty log: ${cell(name)}`, '', '| UTC | who | what |', '|---|---|---|', ...rows, ''].join('\n');
}

/** A cell has neither bars nor line ends of its own (common practice, no source). */
const cell = (text: string): string => oneLine(text.replace(/\\/g, '\\\\').replace(/\|/g, '\\|'));

const oneLine = (text: string): string => text.replace(/\s*[\r\n]+\s*/g, ' ');
