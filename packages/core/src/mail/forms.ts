import type { Position } from '../geo/position.js';
import { dateText } from './letter.js';

/** What a form comes to: an ordinary letter, whose text anybody can read. */
export interface FilledForm {
  readonly to: readonly string[];
  readonly subject: string;
  readonly text: string;
}

export interface PositionReport extends Position {
  readonly atMs: number;
  /** True, degrees. */
  readonly courseDeg?: number;
  readonly speedMps?: number;
  readonly comment: string;
}

const KNOTS_PER_MPS = 3600 / 1852;

/** The position report of radio mail: addressee QTH (from memory; COURSE and SPEED, in knots, too). */
export function positionReport({
  latitudeDeg,
  longitudeDeg,
  atMs,
  courseDeg,
  speedMps,
  comment,
}: PositionReport): FilledForm {
  const lines = [
    `DATE: ${dateText(atMs)}`,
    `LATITUDE: ${degreesMinutes(latitudeDeg, 2, 'NS')}`,
    `LONGITUDE: ${degreesMinutes(longitudeDeg, 3, 'EW')}`,
    ...(courseDeg === undefined ? [] : [`COURSE: ${String(Math.round(courseDeg) % 360).padStart(3, '0')}T`]),
    ...(speedMps === undefined ? [] : [`SPEED: ${(speedMps * KNOTS_PER_MPS).toFixed(1)}`]),
    `COMMENT: ${comment.replace(/\s+/g, ' ').trim()}`,
  ];
  return { to: ['QTH'], subject: 'Position Report', text: lines.join('\n') };
}

/** `dd-mm.mmN`; minutes never read 60. */
function degreesMinutes(degrees: number, digits: number, signs: string): string {
  const hundredths = Math.round(Math.abs(degrees) * 6000);
  const minutes = ((hundredths % 6000) / 100).toFixed(2).padStart(5, '0');
  return `${String(Math.floor(hundredths / 6000)).padStart(digits, '0')}-${minutes}${signs[degrees < 0 ? 1 : 0]}`;
}

/** Asks the service for items of its catalogue, one a line (from memory). */
export const catalogueRequest = (items: readonly string[]): FilledForm => ({
  to: ['INQUIRY'],
  subject: 'REQUEST',
  text: items.join('\n'),
});

/** A template of one's own: text with fields in braces, as `{terns}` or `{weather=fine}`. */
export interface Template {
  readonly name: string;
  readonly to: string;
  readonly subject: string;
  readonly text: string;
}

export interface TemplateField {
  readonly name: string;
  readonly usual: string;
}

const FIELD = /\{([^{}=\n]{1,40})(?:=([^{}\n]{0,80}))?\}/g;

/** Each field once, in the order in which it stands; those that Mistpeak knows itself are left out. */
export function fieldsOf(
  { subject, text }: Pick<Template, 'subject' | 'text'>,
  known: readonly string[],
): TemplateField[] {
  const fields = new Map<string, string>();
  for (const [, name = '', usual = ''] of `${subject}\n${text}`.matchAll(FIELD))
    if (!known.includes(name.trim()) && !fields.has(name.trim())) fields.set(name.trim(), usual);
  return [...fields].map(([name, usual]) => ({ name, usual }));
}

/** values by name of field; what is not given stands as its usual value. */
export function fillTemplate(
  { to, subject, text }: Template,
  values: Readonly<Record<string, string>>,
): FilledForm {
  const fill = (given: string): string =>
    given.replace(FIELD, (_, name: string, usual: string | undefined) => {
      const value = Object.hasOwn(values, name.trim()) ? values[name.trim()] : undefined;
      return value === undefined || value === '' ? (usual ?? '') : value;
    });
  return {
    to: to.split(/[\s,;]+/).filter((one) => one !== ''),
    subject: fill(subject).replace(/\s+/g, ' ').trim(),
    text: fill(text),
  };
}

/** What Mistpeak fills in by itself. */
export const KNOWN_FIELDS = ['call', 'date', 'time', 'place'] as const;

/** Is there from the start: who is there, where, and how. */
export const CHECK_IN: Template = {
  name: 'Check-in',
  to: '',
  subject: 'Check-in {call} {date}',
  text: [
    'Check-in of {call}',
    'Time (UTC): {date} {time}',
    'Place: {place}',
    'Operators: {operators=1}',
    'Power: {power=battery}',
    'All well: {all well=yes}',
    'Remarks: {remarks}',
  ].join('\n'),
};
