import type { Facility } from './facility.js';

const CR_LF = '\r\n';
const HEADS = ['name', 'receive_mhz', 'shift_mhz', 'mode', 'tone_hz', 'place', 'notes'] as const;

/** A program that reads tables takes a cell that begins so for a formula; an apostrophe in front makes it a text. */
const FORMULA = /^[=+\-@\t\r]/;

/** A cell of CSV (RFC 4180) that no table program carries out. Numbers stay numbers. */
export function safeCell(value: string | number | undefined): string {
  if (value === undefined) return '';
  if (typeof value === 'number') return String(value);
  const text = FORMULA.test(value) ? `'${value}` : value;
  return /[",\r\n']/.test(text) ? `"${text.replace(/"/g, '""')}"` : text;
}

/** Channels in plain columns, for loading into a radio. Read the radio’s memory and keep it before you write. */
export function channelsCsv(directory: readonly Facility[]): string {
  const rows = directory.map(({ call, frequencyMHz, shiftMHz, mode, kind, toneHz, position, notes }) => [
    call,
    frequencyMHz,
    shiftMHz,
    mode === '' ? (kind === 'voice repeater' ? 'FM' : 'packet') : mode,
    toneHz,
    position && `${position.latitudeDeg.toFixed(5)} ${position.longitudeDeg.toFixed(5)}`,
    notes,
  ]);
  return [HEADS, ...rows].map((row) => row.map(safeCell).join(',')).join(CR_LF) + CR_LF;
}
