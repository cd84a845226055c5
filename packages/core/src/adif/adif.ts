/** One contact. Calls as on the air; times in ms since 1970. */
export interface Contact {
  readonly call: string;
  readonly stationCall: string;
  readonly onMs: number;
  readonly offMs?: number;
  /** A mode of the specification's enumeration: PKT for packet. */
  readonly mode: string;
  readonly frequencyMHz?: number;
  readonly comment?: string;
}

/** Bands by the specification's enumeration, lower and upper edge in MHz. */
const BANDS: readonly (readonly [string, number, number])[] = [
  ['160m', 1.8, 2],
  ['80m', 3.5, 4],
  ['60m', 5.06, 5.45],
  ['40m', 7, 7.3],
  ['30m', 10.1, 10.15],
  ['20m', 14, 14.35],
  ['17m', 18.068, 18.168],
  ['15m', 21, 21.45],
  ['12m', 24.89, 24.99],
  ['10m', 28, 29.7],
  ['6m', 50, 54],
  ['4m', 70, 71],
  ['2m', 144, 148],
  ['1.25m', 222, 225],
  ['70cm', 420, 450],
  ['23cm', 1240, 1300],
];

export const bandOf = (frequencyMHz: number): string | undefined =>
  BANDS.find(([, from, to]) => frequencyMHz >= from && frequencyMHz <= to)?.[0];

export function formatAdif(contacts: readonly Contact[]): string {
  const header = [
    'Contacts of packet sessions',
    field('ADIF_VER', '3.1.4'),
    field('PROGRAMID', 'Mistpeak'),
    '<EOH>',
  ];
  return [...header, ...contacts.map(record), ''].join('\n');
}

function record({ call, stationCall, onMs, offMs, mode, frequencyMHz, comment }: Contact): string {
  const band = frequencyMHz === undefined ? undefined : bandOf(frequencyMHz);
  return [
    field('CALL', call),
    field('STATION_CALLSIGN', stationCall),
    field('QSO_DATE', dateOf(onMs)),
    field('TIME_ON', timeOf(onMs)),
    ...(offMs === undefined ? [] : [field('QSO_DATE_OFF', dateOf(offMs)), field('TIME_OFF', timeOf(offMs))]),
    field('MODE', mode),
    ...(frequencyMHz === undefined ? [] : [field('FREQ', frequencyMHz.toFixed(4))]),
    ...(band === undefined ? [] : [field('BAND', band)]),
    ...(comment === undefined ? [] : [field('COMMENT', comment)]),
    '<EOR>',
  ].join('');
}

/** ADI files hold ASCII ("Data types", Character): anything else becomes a question mark. */
function field(name: string, value: string): string {
  const plain = value.replace(/[^ -~]/gu, '?');
  return `<${name}:${plain.length}>${plain}`;
}

const dateOf = (ms: number): string => new Date(ms).toISOString().slice(0, 10).replaceAll('-', '');
const timeOf = (ms: number): string => new Date(ms).toISOString().slice(11, 19).replaceAll(':', '');
