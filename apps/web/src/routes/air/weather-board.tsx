import { useEffect, useState } from 'react';
import { Line, LineChart, ResponsiveContainer, YAxis } from 'recharts';
import { Link } from 'react-router';
import { weatherOutlook, type WeatherAt } from '@mistpeak/core/listening/weather-outlook';
import { windName, wayTo } from '@mistpeak/core/geo/position';
import type { Weather } from '@mistpeak/core/aprs/report';
import {
  formatDistance,
  formatPressure,
  formatRain,
  formatTemperature,
  formatWind,
  type UnitSystem,
} from '@mistpeak/core/units/units';
import type { WeatherOf } from '@mistpeak/contract/listening';
import type { Problem } from '@mistpeak/contract/failures';
import type { OperatorView } from '@mistpeak/contract/operator';
import { keepAsking } from '../../live/keep-asking';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';

const HOURS = 24;
const ASKED_EVERY_MS = 60_000;
const UNITS = ['metric', 'imperial', 'nautical'] as const;

/** Every weather station: now as a table, the day as small lines, and a dry word on how it goes. */
export default function WeatherBoard({ operator }: { operator: OperatorView }) {
  const stations = useLive((state) => state.stations);
  const nowMs = useNow(10_000);
  const [units, setUnits] = useState<UnitSystem>(operator.units);
  const [board, setBoard] = useState<readonly WeatherOf[]>();
  const [problem, setProblem] = useState<Problem>();
  useEffect(() => keepAsking(`/listening/weather?hours=${HOURS}`, setBoard, setProblem, ASKED_EVERY_MS), []);
  const rows = (board ?? [])
    .map((one) => {
      const position = stations.get(one.name)?.position;
      const km = position && operator.position ? wayTo(operator.position, position).distanceKm : undefined;
      return { ...one, km };
    })
    .sort((a, b) => (a.km ?? 1e6) - (b.km ?? 1e6) || a.name.localeCompare(b.name));
  return (
    <section aria-label="Weather" className="flex flex-col gap-3 px-6 py-4 max-md:px-4">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h2>Weather</h2>
        <p className="text-[14px] text-ink2">
          {board ? `${rows.length} stations in the last ${HOURS} h` : 'Looking through the last day …'}
        </p>
        <label className="ml-auto text-[13.5px] text-ink2">
          Units{' '}
          <select
            value={units}
            onChange={({ target }) => setUnits(target.value as UnitSystem)}
            className="ml-1 rounded-md border border-edge bg-raise px-2 py-0.5 text-ink max-md:min-h-11"
          >
            {UNITS.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </label>
      </div>
      {problem && <ProblemNote problem={problem} />}
      {board?.length === 0 && <p className="text-ink2">No weather station was heard in the last day.</p>}
      {rows.length > 0 && (
        <Table
          stacks
          columns={[
            'Station',
            'Temperature',
            'Wind',
            'Gusts',
            'Rain, 1 h',
            'Humidity',
            'Pressure',
            'How it goes',
            'Heard',
          ]}
          className="w-full text-[14px]"
        >
          {rows.map(({ name, km, reports }) => (
            <Row key={name} name={name} km={km} reports={reports} nowMs={nowMs} units={units} />
          ))}
        </Table>
      )}
      <div className="grid gap-4 lg:grid-cols-2">
        {rows.map(({ name, reports }) => (
          <Day key={name} name={name} reports={reports} units={units} />
        ))}
      </div>
    </section>
  );
}

function Row({
  name,
  km,
  reports,
  nowMs,
  units,
}: {
  name: string;
  km: number | undefined;
  reports: readonly WeatherAt[];
  nowMs: number;
  units: UnitSystem;
}) {
  const last = reports.at(-1);
  if (!last) return null;
  const { weather, atMs } = last;
  const cell = 'pr-3 font-mono text-[13.5px]';
  return (
    <tr className="border-t border-line align-baseline">
      <th scope="row" className="py-1.5 pr-3 font-mono font-[620]">
        <Link to={`/air/${encodeURIComponent(name)}`} className="underline underline-offset-4">
          {name}
        </Link>{' '}
        {km !== undefined && <span className="font-[400] text-ink3">{formatDistance(km, units)}</span>}
      </th>
      <td className={cell}>{shown(weather.temperatureC, (value) => formatTemperature(value, units))}</td>
      <td className={cell}>{windWords(weather, units)}</td>
      <td className={cell}>{shown(weather.windGustMps, (value) => formatWind(value, units))}</td>
      <td className={cell}>{shown(weather.rainLastHourMm, (value) => formatRain(value, units))}</td>
      <td className={cell}>{shown(weather.humidityPercent, (value) => `${value} %`)}</td>
      <td className={cell}>{shown(weather.pressureHpa, (value) => formatPressure(value, units))}</td>
      <td className="pr-3">{weatherOutlook(reports, nowMs, units) || 'nothing worth a word'}</td>
      <td className="font-mono text-[13px] text-ink3">{formatAge(nowMs - atMs)}</td>
    </tr>
  );
}

const shown = (value: number | undefined, format: (value: number) => string): string =>
  value === undefined ? '–' : format(value);

function windWords({ windSpeedMps, windDirectionDeg }: Weather, units: UnitSystem): string {
  if (windSpeedMps === undefined) return '–';
  const from = windDirectionDeg === undefined ? '' : `${windName(windDirectionDeg)} `;
  return `${from}${formatWind(windSpeedMps, units)}`;
}

const CURVES = [
  { key: 'temperatureC', words: 'Temperature', format: formatTemperature, ink: 'var(--ink)' },
  { key: 'windSpeedMps', words: 'Wind', format: formatWind, ink: 'var(--r4)' },
  { key: 'windGustMps', words: 'Gusts', format: formatWind, ink: 'var(--look)' },
  { key: 'pressureHpa', words: 'Pressure', format: formatPressure, ink: 'var(--r4)' },
] as const;

/** One station's day: each curve with its least and its most in words. */
function Day({ name, reports, units }: { name: string; reports: readonly WeatherAt[]; units: UnitSystem }) {
  return (
    <figure className="border-t border-ink pt-2">
      <figcaption className="font-mono text-[13.5px] font-[620]">{name}</figcaption>
      {CURVES.map(({ key, words, format, ink }) => {
        const values = reports.flatMap(({ weather }) => weather[key] ?? []);
        if (values.length < 2) return null;
        const [least, most] = [Math.min(...values), Math.max(...values)];
        return (
          <div key={key} className="grid grid-cols-[86px_1fr_168px] items-center gap-2 text-[13px]">
            <span className="text-ink2">{words}</span>
            <div className="h-9" aria-hidden>
              <ResponsiveContainer width="100%" height="100%">
                <LineChart
                  data={reports.map(({ weather }) => ({ value: weather[key] }))}
                  accessibilityLayer={false}
                >
                  <YAxis hide domain={[least, most === least ? least + 1 : most]} />
                  <Line
                    dataKey="value"
                    stroke={ink}
                    strokeWidth={1.6}
                    dot={false}
                    isAnimationActive={false}
                  />
                </LineChart>
              </ResponsiveContainer>
            </div>
            <span className="text-right font-mono text-[12.5px] text-ink3">
              {format(least, units)} … {format(most, units)}
            </span>
          </div>
        );
      })}
    </figure>
  );
}
