import type { Weather } from '../aprs/report.js';
import { formatWind, type UnitSystem } from '../units/units.js';

/** A weather report in its time, ms since 1970 UTC. */
export interface WeatherAt {
  readonly atMs: number;
  readonly weather: Weather;
}

export type Trend = 'rising fast' | 'rising' | 'steady' | 'falling' | 'falling fast';

const HOUR_MS = 3_600_000;
/** Pressure tendency is told over three hours (WMO-No. 306, code table 0200). */
const TENDENCY_MS = 3 * HOUR_MS;
/** Below this it is steady, from this on fast, hPa in three hours (common practice of marine forecasts, no source). */
const STEADY_HPA = 0.5;
const FAST_HPA = 3.5;
/** Means of the wind over so long are compared, and have to differ by this share and by this much. */
const WIND_MS = HOUR_MS / 2;
const WIND_SHARE = 0.25;
const WIND_MPS = 2;

/** How the pressure goes, scaled to three hours from what there is of them; undefined: there is too little. reports: oldest first. */
export function pressureTrend(reports: readonly WeatherAt[], nowMs: number): Trend | undefined {
  const known = reports.filter(
    ({ atMs, weather }) => weather.pressureHpa !== undefined && nowMs - atMs <= TENDENCY_MS,
  );
  const [first, last] = [known[0], known.at(-1)];
  if (!first || !last || last.atMs - first.atMs < HOUR_MS) return undefined;
  const change = (last.weather.pressureHpa as number) - (first.weather.pressureHpa as number);
  return trendOf((change * TENDENCY_MS) / (last.atMs - first.atMs));
}

function trendOf(hpa: number): Trend {
  if (Math.abs(hpa) < STEADY_HPA) return 'steady';
  const word = hpa > 0 ? 'rising' : 'falling';
  return Math.abs(hpa) >= FAST_HPA ? `${word} fast` : word;
}

/** Whether the wind of the last half hour is another than that of the half hour before. */
export function windTrend(
  reports: readonly WeatherAt[],
  nowMs: number,
): 'rising' | 'easing' | 'steady' | undefined {
  const mean = (fromMs: number, untilMs: number): number | undefined => {
    const speeds = reports.flatMap(({ atMs, weather: { windSpeedMps } }) =>
      atMs > fromMs && atMs <= untilMs && windSpeedMps !== undefined ? [windSpeedMps] : [],
    );
    return speeds.length === 0 ? undefined : speeds.reduce((sum, one) => sum + one, 0) / speeds.length;
  };
  const before = mean(nowMs - 2 * WIND_MS, nowMs - WIND_MS);
  const now = mean(nowMs - WIND_MS, nowMs);
  if (before === undefined || now === undefined) return undefined;
  if (Math.abs(now - before) < Math.max(WIND_MPS, WIND_SHARE * before)) return 'steady';
  return now > before ? 'rising' : 'easing';
}

/** `gusts 18 m/s, rising; pressure falling fast`; empty where nothing is worth a word. */
export function weatherOutlook(reports: readonly WeatherAt[], nowMs: number, units: UnitSystem): string {
  const last = reports.at(-1)?.weather;
  if (!last) return '';
  const wind = windTrend(reports, nowMs);
  const { windGustMps, windSpeedMps } = last;
  const blow =
    windGustMps !== undefined && windGustMps > 0
      ? `gusts ${formatWind(windGustMps, units)}`
      : windSpeedMps !== undefined && windSpeedMps > 0
        ? `wind ${formatWind(windSpeedMps, units)}`
        : '';
  const pressure = pressureTrend(reports, nowMs);
  return [
    blow === '' ? '' : wind === undefined || wind === 'steady' ? blow : `${blow}, ${wind}`,
    pressure === undefined ? '' : `pressure ${pressure}`,
  ]
    .filter(Boolean)
    .join('; ');
}
