import Papa from 'papaparse';
import { formatPlace } from '../geo/place.js';
import type { Facility } from './facility.js';

/**
 * Channels in plain columns, for loading into a radio (RFC 4180); no cell is one that a table program would carry out. Read the
 * radio’s memory and keep it before you write.
 */
export function channelsCsv(directory: readonly Facility[]): string {
  const data = directory.map(({ call, frequencyMHz, shiftMHz, mode, kind, toneHz, position, notes }) => ({
    name: call,
    receive_mhz: frequencyMHz,
    shift_mhz: shiftMHz,
    mode: mode === '' ? (kind === 'voice repeater' ? 'FM' : 'packet') : mode,
    tone_hz: toneHz,
    place: position && formatPlace(position),
    notes,
  }));
  const fields = ['name', 'receive_mhz', 'shift_mhz', 'mode', 'tone_hz', 'place', 'notes'];
  return `${Papa.unparse({ fields, data }, { newline: '\r\n', escapeFormulae: true })}\r\n`;
}
