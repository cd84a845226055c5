import { Bar, BarChart, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import {
  celsiusToFahrenheit,
  formatHeight,
  HPA_PER_INHG,
  METRES_PER_FOOT,
  MPS_PER_KNOT,
  MPS_PER_MPH,
  type UnitSystem,
} from '@mistpeak/core/units/units';
import type { OperatorView } from '@mistpeak/contract/operator';
import { formatClock, formatDay } from '../../pieces/age';
import type { Curve, StationSeries } from './station-series';
import { TICK, TOOLTIP } from '../../pieces/chart-looks';

const MOST_PATHS = 6;

/** What the station's packets tell over time: weather, telemetry by its own definitions, altitude, hours, path, losses. */
export function StationCharts({ series, operator }: { series: StationSeries; operator: OperatorView }) {
  const { units } = operator;
  const { telemetry, altitude, ascentMps, lost, byHour, byDay, paths, title } = series;
  const weather = weatherCurves(series, units);
  return (
    <>
      {altitude && (
        <section aria-label="Altitude">
          <h2>Altitude</h2>
          {ascentMps !== undefined && (
            <p className="text-[14px] text-ink2">
              {Math.abs(ascentMps) < 0.2
                ? 'keeps its height'
                : `${ascentMps > 0 ? 'climbs' : 'comes down'} at ${Math.abs(ascentMps).toFixed(1)} m/s`}
              , last at {formatHeight(altitude.points.at(-1)?.[1] ?? 0, units)}
            </p>
          )}
          <CurveChart curve={inUnits(altitude, units)} />
        </section>
      )}
      {weather.length > 0 && (
        <section aria-label="Weather it reported">
          <h2>Weather it reported</h2>
          {weather.map((curve) => (
            <CurveChart key={curve.name} curve={curve} />
          ))}
        </section>
      )}
      {telemetry.length > 0 && (
        <section aria-label="Telemetry">
          <h2>Telemetry{title === '' ? '' : `: ${title}`}</h2>
          {telemetry.map((curve) => (
            <CurveChart key={curve.name} curve={curve} />
          ))}
        </section>
      )}
      {lost && (
        <p className="text-[14px]">
          By its own numbers {lost.came} of {lost.came + lost.lost} packets with telemetry came
          {lost.lost === 0 ? '; none was lost.' : `; ${lost.lost} did not.`}
        </p>
      )}
      <section aria-label="By the hour of the day">
        <h2>By the hour of the day</h2>
        <CountBars
          bars={byHour.map((count, hour) => ({ name: String(hour).padStart(2, '0'), count }))}
          every={2}
        />
        <p className="text-[13px] text-ink3">{hoursInWords(byHour)}, UTC</p>
      </section>
      {byDay.length > 1 && (
        <section aria-label="By the day">
          <h2>By the day</h2>
          <CountBars
            bars={byDay.map(({ day, count }) => ({ name: day.slice(5), count }))}
            every={Math.floor(byDay.length / 8)}
          />
          <p className="text-[13px] text-ink3">{daysInWords(byDay)}</p>
        </section>
      )}
      {paths.length > 0 && (
        <section aria-label="Path that it asked for">
          <h2>Path that it asked for</h2>
          <ul className="text-[14px]">
            {paths.slice(-MOST_PATHS).map(({ atMs, path }) => (
              <li key={atMs} className="border-t border-line py-1">
                <span className="font-mono text-[13px] text-ink3">{formatDay(atMs)}</span>{' '}
                <span className="font-mono">{path === '' ? 'direct' : path}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

/** What the words under it say, as bars. every: so many names are left out after one that stands. */
function CountBars({ bars, every }: { bars: readonly { name: string; count: number }[]; every: number }) {
  return (
    <div className="h-28" aria-hidden>
      <ResponsiveContainer width="100%" height="100%">
        <BarChart
          data={[...bars]}
          accessibilityLayer={false}
          margin={{ top: 4, right: 4, bottom: 0, left: -28 }}
        >
          <XAxis dataKey="name" interval={every} tick={TICK} stroke="var(--edge)" />
          <YAxis allowDecimals={false} tick={TICK} stroke="var(--edge)" />
          <Bar dataKey="count" name="frames" fill="var(--r4)" isAnimationActive={false} />
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}

export function daysInWords(byDay: StationSeries['byDay']): string {
  const heard = byDay.filter(({ count }) => count > 0).length;
  const best = byDay.reduce((most, one) => (one.count > most.count ? one : most));
  return `heard on ${heard} of ${byDay.length} days, most on ${best.day} (${best.count} frames)`;
}

export function hoursInWords(byHour: readonly number[]): string {
  const heard = byHour.flatMap((count, hour) => (count > 0 ? [hour] : []));
  const best = byHour.indexOf(Math.max(...byHour));
  if (heard.length === 0) return 'not heard on radio';
  return `heard in ${heard.length} of 24 hours, most from ${String(best).padStart(2, '0')}:00 on`;
}

function inUnits(curve: Curve, units: UnitSystem): Curve {
  if (units === 'metric') return curve;
  return {
    ...curve,
    unit: 'ft',
    points: curve.points.map(([atMs, metres]) => [atMs, metres / METRES_PER_FOOT]),
  };
}

const same = (value: number): number => value;

/** In the operator's units; by the exact factors of core. */
export function weatherCurves({ weather }: Pick<StationSeries, 'weather'>, units: UnitSystem): Curve[] {
  const wind =
    units === 'metric'
      ? { unit: 'm/s', of: same }
      : units === 'imperial'
        ? { unit: 'mph', of: (mps: number) => mps / MPS_PER_MPH }
        : { unit: 'kt', of: (mps: number) => mps / MPS_PER_KNOT };
  const kinds = [
    {
      key: 'temperatureC',
      name: 'Temperature',
      unit: units === 'imperial' ? '°F' : '°C',
      of: units === 'imperial' ? celsiusToFahrenheit : same,
    },
    { key: 'windSpeedMps', name: 'Wind', ...wind },
    { key: 'windGustMps', name: 'Gusts', ...wind },
    {
      key: 'pressureHpa',
      name: 'Pressure',
      unit: units === 'imperial' ? 'inHg' : 'hPa',
      of: units === 'imperial' ? (hpa: number) => hpa / HPA_PER_INHG : same,
    },
    { key: 'humidityPercent', name: 'Humidity', unit: '%', of: same },
  ] as const;
  return kinds.flatMap(({ key, name, unit, of }) => {
    const points = weather.flatMap(({ atMs, weather: one }): [number, number][] => {
      const value = one[key];
      return value === undefined ? [] : [[atMs, of(value)]];
    });
    return points.length > 1 ? [{ name, unit, points }] : [];
  });
}

function CurveChart({ curve: { name, unit, points } }: { curve: Curve }) {
  const values = points.map(([, value]) => value);
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const figure = (value: number): string =>
    Number.isInteger(value) ? String(value) : value.toFixed(Math.abs(value) < 100 ? 2 : 0);
  return (
    <figure className="pt-1">
      <figcaption className="flex justify-between gap-3 text-[13px]">
        <b className="font-[620]">{name}</b>
        <span className="font-mono text-ink2">
          {figure(least)} … {figure(most)} {unit}, last {figure(values.at(-1) ?? 0)}
        </span>
      </figcaption>
      <div className="h-20" aria-hidden>
        <ResponsiveContainer width="100%" height="100%">
          <LineChart
            data={points.map(([atMs, value]) => ({ atMs, value }))}
            accessibilityLayer={false}
            margin={{ top: 4, right: 4, bottom: 0, left: -20 }}
          >
            <XAxis
              dataKey="atMs"
              type="number"
              domain={['dataMin', 'dataMax']}
              tickFormatter={(atMs: number) => formatClock(atMs, 'utc').slice(0, 5)}
              tick={TICK}
              stroke="var(--edge)"
            />
            <YAxis domain={['auto', 'auto']} tick={TICK} stroke="var(--edge)" width={56} />
            <Tooltip {...TOOLTIP} labelFormatter={(atMs) => formatClock(Number(atMs), 'utc')} />
            <Line dataKey="value" name={name} stroke="var(--ink)" dot={false} isAnimationActive={false} />
          </LineChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}
