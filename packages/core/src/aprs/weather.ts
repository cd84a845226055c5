import {
  celsiusToFahrenheit,
  fahrenheitToCelsius,
  METRES_PER_FOOT,
  MM_PER_INCH,
  MPS_PER_MPH,
} from '../units/units.js';
import type { Weather } from './report.js';
import { digits } from './text.js';

/**
 * 1.0.1, "Weather reports": letter and digits, dots or blanks where a sensor is missing.
 * Wind is in mph throughout: the reference gives knots for the data extension ahead of it and mph for its
 * own wind fields; mph is what weather stations send (common practice, no source).
 */
interface Field {
  readonly letter: string;
  readonly digits: number;
  readonly into: keyof Weather;
  /** Undefined where the figures mean nothing. */
  readonly si: (value: number) => number | undefined;
  readonly sent: (si: number) => number;
}

const MM_PER_HUNDREDTH = MM_PER_INCH / 100;
/** `L` counts to 999 W/m², `l` from 1000 on. */
const BRIGHT = 1000;

const FIELDS: readonly Field[] = [
  { letter: 'c', digits: 3, into: 'windDirectionDeg', ...direction() },
  { letter: 'g', digits: 3, into: 'windGustMps', ...times(MPS_PER_MPH) },
  { letter: 't', digits: 3, into: 'temperatureC', si: fahrenheitToCelsius, sent: celsiusToFahrenheit },
  { letter: 'r', digits: 3, into: 'rainLastHourMm', ...times(MM_PER_HUNDREDTH) },
  { letter: 'p', digits: 3, into: 'rainLast24hMm', ...times(MM_PER_HUNDREDTH) },
  { letter: 'P', digits: 3, into: 'rainSinceMidnightMm', ...times(MM_PER_HUNDREDTH) },
  { letter: 'h', digits: 2, into: 'humidityPercent', si: (v) => v || 100, sent: (v) => v % 100 },
  { letter: 'b', digits: 5, into: 'pressureHpa', ...times(0.1) },
  { letter: 'L', digits: 3, into: 'luminosityWm2', ...same() },
  { letter: 'l', digits: 3, into: 'luminosityWm2', si: (v) => v + BRIGHT, sent: (v) => v - BRIGHT },
  { letter: '#', digits: 3, into: 'rainCounter', ...same() },
  // 1.2 addendum, new weather fields (from memory): water against flood stage in tenths of a foot or metre, battery in tenths of
  // a volt, radiation as two digits and a power of ten.
  { letter: 'F', digits: 4, into: 'waterLevelM', ...times(METRES_PER_FOOT / 10) },
  { letter: 'f', digits: 4, into: 'waterLevelM', ...times(0.1) },
  { letter: 'V', digits: 3, into: 'batteryV', ...times(0.1) },
  { letter: 'X', digits: 3, into: 'radiationNsvPerHour', si: readTwoDigits, sent: writeTwoDigits },
];

function same(): Pick<Field, 'si' | 'sent'> {
  return { si: (v) => v, sent: (v) => v };
}

function times(factor: number): Pick<Field, 'si' | 'sent'> {
  return { si: (v) => v * factor, sent: (v) => v / factor };
}

type WindForm = '/' | 'c' | '' | 'told';

/** 0 and 360 are both north; what lies beyond says nothing. */
function direction(): Pick<Field, 'si' | 'sent'> {
  return { si: (v) => (v > 360 ? undefined : v % 360), sent: (v) => v };
}

function readTwoDigits(v: number): number {
  return Math.floor(v / 10) * 10 ** (v % 10);
}

function writeTwoDigits(v: number): number {
  const power = Math.max(0, Math.floor(Math.log10(Math.max(1, v))) - 1);
  return Math.round(v / 10 ** power) * 10 + power;
}

/**
 * Reads the weather at the start of `text`: either `ddd/sss` or `cddd` `sddd` for the wind, then the fields. A field that
 * cannot be read costs itself alone. hasWind: the wind was told before (compressed position); then `s` is snow.
 * Returns what was read and the rest of the text.
 */
export function readWeather(text: string, hasWind = false): { weather: Weather; rest: string } {
  const weather: Weather = {};
  let rest = text;
  const wind = /^(\d{3}|[ .]{3})\/(\d{3}|[ .]{3})/.exec(rest);
  if (wind) {
    setIfNumber(weather, 'windDirectionDeg', wind[1] as string, direction().si);
    setIfNumber(weather, 'windSpeedMps', wind[2] as string, times(MPS_PER_MPH).si);
    rest = rest.slice(7);
  }
  let hasSpeed = hasWind || wind !== null;
  for (;;) {
    const isS = rest.startsWith('s');
    const taken = (isS ? readS(rest, weather, hasSpeed) : readField(rest, weather)) || lengthOfBadField(rest);
    if (taken === 0) return { weather, rest };
    hasSpeed ||= isS;
    rest = rest.slice(taken);
  }
}

/** A letter of a field whose figures are none: as far as the next field that can be read; 0 where none follows at once. */
function lengthOfBadField(text: string): number {
  const field = FIELDS.find(({ letter }) => text.startsWith(letter));
  const digits = field?.digits ?? (text.startsWith('s') ? 3 : undefined);
  if (digits === undefined) return 0;
  for (let at = 1; at <= digits + 2; at++) {
    const next = text.slice(at);
    if ((next.startsWith('s') ? readS(next, {}, true) : readField(next, {})) > 0) return at;
  }
  return 0;
}

/** `s` is the wind speed where none was told yet, later the snow of 24 h in inches (1.0.1, "Weather data"). */
function readS(text: string, weather: Weather, hasSpeed: boolean): number {
  const value = /^s(\d\d\d|\d?\.\d+|[. ]{3})/.exec(text)?.[1];
  if (value === undefined) return 0;
  if (hasSpeed) setIfNumber(weather, 'snowLast24hMm', value, times(MM_PER_INCH).si);
  else setIfNumber(weather, 'windSpeedMps', value, times(MPS_PER_MPH).si);
  return value.length + 1;
}

function readField(text: string, weather: Weather): number {
  const letter = text[0] ?? '';
  const field = FIELDS.find((candidate) => candidate.letter === letter);
  if (!field) return 0;
  const value = text.slice(1, 1 + field.digits);
  if (!/^(?:-?\d+|[. ]+)$/.test(value) || value.length < field.digits) return 0;
  setIfNumber(weather, field.into, value, field.si);
  return field.digits + 1;
}

function setIfNumber(weather: Weather, into: keyof Weather, text: string, si: Field['si']): void {
  const value = /\d/.test(text) ? si(Number(text)) : undefined;
  if (value !== undefined) weather[into] = value;
}

/**
 * wind: `/` writes `ddd/sss` (behind a position), `c` writes `cdddsddd` (positionless), nothing writes none; `told`: the
 * position has told it.
 */
export function encodeWeather(weather: Weather, wind: WindForm): string {
  const figure = (value: number | undefined, width: number): string =>
    value === undefined ? '.'.repeat(width) : signed(value, width);
  const mph = weather.windSpeedMps === undefined ? undefined : weather.windSpeedMps / MPS_PER_MPH;
  const direction = weather.windDirectionDeg;
  const head = {
    '/': `${figure(direction, 3)}/${figure(mph, 3)}`,
    c: `c${figure(direction, 3)}s${figure(mph, 3)}`,
    '': '',
    told: '',
  }[wind];
  const fields = FIELDS.filter(({ letter, into }) => letter !== 'c' && weather[into] !== undefined)
    .filter(({ letter, into }) => into !== 'luminosityWm2' || letter === luminosityLetter(weather))
    .filter(({ letter, into }) => into !== 'waterLevelM' || letter === waterLetter(weather))
    .map(({ letter, digits: width, into, sent }) => letter + signed(sent(weather[into] as number), width));
  return head + fields.join('') + snow(weather, wind);
}

function luminosityLetter({ luminosityWm2 = 0 }: Weather): string {
  return luminosityWm2 < BRIGHT ? 'L' : 'l';
}

/** In tenths of a metre where it is a whole number of them, else of a foot. */
function waterLetter({ waterLevelM = 0 }: Weather): string {
  const tenths = waterLevelM * 10;
  return Math.abs(tenths - Math.round(tenths)) < 1e-6 ? 'f' : 'F';
}

/** Snow is told from wind speed by standing second: behind no wind at all, a missing one is written first. */
function snow({ snowLast24hMm }: Weather, wind: WindForm): string {
  if (snowLast24hMm === undefined) return '';
  const inches = snowLast24hMm / MM_PER_INCH;
  const text = Number.isInteger(Number(inches.toFixed(6))) ? digits(inches, 3) : inches.toFixed(1).slice(-3);
  return `${wind === '' ? 's...' : ''}s${text}`;
}

function signed(value: number, width: number): string {
  const rounded = Math.round(value);
  return rounded < 0 ? `-${digits(-rounded, width - 1)}` : digits(rounded, width);
}
