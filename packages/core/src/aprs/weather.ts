import { fahrenheitToCelsius, MM_PER_INCH, MPS_PER_MPH } from '../units/units.js';
import type { Weather } from './report.js';

/**
 * 1.0.1, "Weather reports": letter and digits, dots or blanks where a sensor is missing.
 * Wind is in mph throughout: the reference gives knots for the data extension ahead of it and mph for its
 * own wind fields; mph is what weather stations send (common practice, no source).
 */
const FIELDS: readonly {
  readonly letter: string;
  readonly digits: number;
  readonly into: keyof Weather;
  readonly si: (value: number) => number;
}[] = [
  { letter: 'c', digits: 3, into: 'windDirectionDeg', si: (v) => v },
  { letter: 'g', digits: 3, into: 'windGustMps', si: mph },
  { letter: 't', digits: 3, into: 'temperatureC', si: fahrenheitToCelsius },
  { letter: 'r', digits: 3, into: 'rainLastHourMm', si: hundredthsOfInch },
  { letter: 'p', digits: 3, into: 'rainLast24hMm', si: hundredthsOfInch },
  { letter: 'P', digits: 3, into: 'rainSinceMidnightMm', si: hundredthsOfInch },
  { letter: 'h', digits: 2, into: 'humidityPercent', si: (v) => (v === 0 ? 100 : v) },
  { letter: 'b', digits: 5, into: 'pressureHpa', si: (v) => v / 10 },
  { letter: 'L', digits: 3, into: 'luminosityWm2', si: (v) => v },
  { letter: 'l', digits: 3, into: 'luminosityWm2', si: (v) => v + 1000 },
];

function mph(value: number): number {
  return value * MPS_PER_MPH;
}

function hundredthsOfInch(value: number): number {
  return (value / 100) * MM_PER_INCH;
}

/**
 * Reads the weather at the start of `text`: either `ddd/sss` or `cddd` `sddd` for the wind, then the fields.
 * Returns what was read and the rest of the text.
 */
export function readWeather(text: string): { weather: Weather; rest: string } {
  const weather: Weather = {};
  let rest = text;
  const wind = /^(\d{3}|[ .]{3})\/(\d{3}|[ .]{3})/.exec(rest);
  if (wind) {
    setIfNumber(weather, 'windDirectionDeg', wind[1] as string, (v) => v);
    setIfNumber(weather, 'windSpeedMps', wind[2] as string, mph);
    rest = rest.slice(7);
  }
  for (;;) {
    const taken = readField(rest, weather);
    if (taken === 0) return { weather, rest };
    rest = rest.slice(taken);
  }
}

/** `s` is the wind speed where it follows `c`, later the snow in inches (1.0.1, "Weather data"). */
function readField(text: string, weather: Weather): number {
  const letter = text[0] ?? '';
  if (letter === 's') {
    const value = /^s(\d\d\d|\d?\.\d+|[. ]{3})/.exec(text)?.[1];
    if (value === undefined) return 0;
    if ('windSpeedMps' in weather || !('windDirectionDeg' in weather))
      setIfNumber(weather, 'snowLast24hMm', value, (v) => v * MM_PER_INCH);
    else setIfNumber(weather, 'windSpeedMps', value, mph);
    return value.length + 1;
  }
  const field = FIELDS.find((candidate) => candidate.letter === letter);
  if (!field) return 0;
  const value = text.slice(1, 1 + field.digits);
  if (!/^(?:-?\d+|[. ]+)$/.test(value) || value.length < field.digits) return 0;
  setIfNumber(weather, field.into, value, field.si);
  return field.digits + 1;
}

function setIfNumber(
  weather: Weather,
  into: keyof Weather,
  text: string,
  si: (value: number) => number,
): void {
  if (/\d/.test(text)) weather[into] = si(Number(text));
}
