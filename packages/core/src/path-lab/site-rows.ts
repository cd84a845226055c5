import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { formatCallSign, parseCallSign } from '../callsign/callsign.js';
import { formatPlace, parsePlace } from '../geo/place.js';
import type { LabRole } from './lab.js';
import { USUAL_SETS } from './compose.js';

/** A station as a row of a file tells of it; place as it is typed. */
export interface SiteRow {
  readonly call: string;
  readonly role: LabRole;
  readonly place: string;
  readonly heightM: number;
  readonly powerW: number;
  readonly gainDbi: number;
  readonly note: string;
}

/** Columns in the order in which they are written; read by these names in any order, whatever their case. */
export const SITE_COLUMNS = [
  'call',
  'role',
  'latitude',
  'longitude',
  'height_m',
  'power_w',
  'gain_dbi',
  'note',
] as const;

const ROLES: readonly LabRole[] = ['digipeater', 'fill-in', 'gateway', 'station'];

/** One row by its columns; what is left out is usual for its role. A place may also stand in one column, `place`. */
export function readSiteRow(row: Readonly<Record<string, string>>): SiteRow | Malformed {
  const of = (name: string): string =>
    (Object.entries(row).find(([key]) => key.trim().toLowerCase() === name)?.[1] ?? '').trim();
  const call = parseCallSign(of('call'));
  if (isMalformed(call)) return malformed(`call: ${call.malformed}`);
  const role = ROLES.find((one) => one === of('role').toLowerCase());
  if (!role && of('role') !== '') return malformed(`role: one of ${ROLES.join(', ')}`);
  const position = parsePlace(of('place') || `${of('latitude')}, ${of('longitude')}`);
  if (isMalformed(position)) return malformed(`place: ${position.malformed}`);
  const set = USUAL_SETS[role ?? 'digipeater'];
  const numbers = { heightM: of('height_m'), powerW: of('power_w'), gainDbi: of('gain_dbi') };
  const wrong = Object.entries(numbers).find(([, text]) => text !== '' && !Number.isFinite(Number(text)));
  if (wrong) return malformed(`${wrong[0]}: “${wrong[1]}” is no number`);
  const number = (text: string, usual: number): number => (text === '' ? usual : Number(text));
  return {
    call: formatCallSign(call),
    role: role ?? 'digipeater',
    place: formatPlace(position),
    heightM: number(numbers.heightM, set.heightM),
    powerW: number(numbers.powerW, set.powerW),
    gainDbi: number(numbers.gainDbi, set.gainDbi),
    note: of('note'),
  };
}

/** The row of a station, by SITE_COLUMNS. */
export function writeSiteRow(site: SiteRow): Record<(typeof SITE_COLUMNS)[number], string> {
  const position = parsePlace(site.place);
  const { latitudeDeg, longitudeDeg } = isMalformed(position)
    ? { latitudeDeg: NaN, longitudeDeg: NaN }
    : position;
  return {
    call: site.call,
    role: site.role,
    latitude: String(latitudeDeg),
    longitude: String(longitudeDeg),
    height_m: String(site.heightM),
    power_w: String(site.powerW),
    gain_dbi: String(site.gainDbi),
    note: site.note,
  };
}
