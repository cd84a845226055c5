import { malformed, type Malformed } from '../bits/malformed.js';
import { fahrenheitToCelsius, MM_PER_INCH } from '../units/units.js';
import type { AprsReport, Weather } from './report.js';

/**
 * 1.0.1, "Weather reports", raw lines as some stations send them (fields from memory): `$ULTW` a packet and `!!` a
 * log line of four-digit hex fields, `----` where a sensor is missing; `#` and `*` have fields of their own that the
 * reference does not give, so they are kept as they are.
 */
interface HexField {
  readonly into: keyof Weather;
  readonly si: (count: number) => number;
}

const TENTH_KMH_IN_MPS = 0.1 / 3.6;
const speed = (into: keyof Weather): HexField => ({ into, si: (count) => count * TENTH_KMH_IN_MPS });
const DIRECTION: HexField = { into: 'windDirectionDeg', si: (count) => ((count & 0xff) * 360) / 256 };
const TEMPERATURE: HexField = {
  into: 'temperatureC',
  si: (count) => fahrenheitToCelsius((count >= 0x8000 ? count - 0x10000 : count) / 10),
};
const PRESSURE: HexField = { into: 'pressureHpa', si: (count) => count / 10 };
const HUMIDITY: HexField = { into: 'humidityPercent', si: (count) => count / 10 };
const RAIN_TODAY: HexField = { into: 'rainSinceMidnightMm', si: (count) => (count / 100) * MM_PER_INCH };

const LAYOUTS: Record<string, readonly (HexField | undefined)[]> = {
  $ULTW: [
    speed('windGustMps'),
    DIRECTION,
    TEMPERATURE,
    undefined,
    PRESSURE,
    undefined,
    undefined,
    undefined,
    HUMIDITY,
    undefined,
    undefined,
    RAIN_TODAY,
    speed('windSpeedMps'),
  ],
  '!!': [
    undefined,
    DIRECTION,
    TEMPERATURE,
    undefined,
    PRESSURE,
    undefined,
    HUMIDITY,
    undefined,
    undefined,
    undefined,
    RAIN_TODAY,
    speed('windSpeedMps'),
  ],
};

export function isRawWeather(info: string): boolean {
  return /^(?:\$ULTW|!!)[0-9A-Fa-f-]{4}|^[#*][0-9A-Fa-f]{6}/.test(info);
}

export function readRawWeather(info: string): AprsReport | Malformed {
  const form = ['$ULTW', '!!', '#', '*'].find((head) => info.startsWith(head));
  if (form === undefined) return malformed('this is no raw weather line');
  const fields = info.slice(form.length).trim();
  const rawWeather = { form, fields };
  const layout = LAYOUTS[form];
  if (!layout) return { type: 'weather', rawWeather };
  const weather: Weather = {};
  for (const [i, field] of layout.entries()) {
    const hex = fields.slice(4 * i, 4 * i + 4);
    if (field && /^[0-9A-F]{4}$/i.test(hex)) weather[field.into] = field.si(Number.parseInt(hex, 16));
  }
  return { type: 'weather', rawWeather, weather };
}
