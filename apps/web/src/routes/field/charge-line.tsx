import { NATURES } from '@mistpeak/core/power/battery';
import type { BankSettings, LoadSettings } from '@mistpeak/contract/field';
import {
  Area,
  AreaChart,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { TICK, TOOLTIP } from '../../pieces/chart-looks';
import type { Outlook } from './field-words';

const HOUR_MS = 3_600_000;
const SHOWN_HOURS = 72;

/** From the charge that was known last to empty, with the hours of sun, now, and the charge below which it suffers. */
export function ChargeLine({
  outlook,
  loads,
  bank,
  nowMs,
}: {
  outlook: Outlook;
  loads: readonly LoadSettings[];
  bank: BankSettings;
  nowMs: number;
}) {
  const { forecast, fromMs, sun } = outlook;
  const points = forecast.line.slice(0, SHOWN_HOURS + 1).map((charge, hour) => ({
    hour,
    charge: Math.round(charge * 1000) / 10,
  }));
  const last = points.at(-1)?.hour ?? 0;
  const now = Math.min(last, (nowMs - fromMs) / HOUR_MS);
  const floor = NATURES[bank.chemistry].floor * 100;
  const clock = (hour: number): string => {
    const at = new Date(fromMs + hour * HOUR_MS);
    return `${at.toLocaleDateString('en-GB', { weekday: 'short' })} ${String(at.getHours()).padStart(2, '0')}:${String(at.getMinutes()).padStart(2, '0')}`;
  };
  return (
    <figure aria-label="Charge by the hour">
      <div className="h-56" aria-hidden>
        <ResponsiveContainer width="100%" height="100%">
          <AreaChart
            data={points}
            accessibilityLayer={false}
            margin={{ top: 8, right: 12, bottom: 0, left: -12 }}
          >
            {sunnyHours(sun, fromMs, last).map(([from, to]) => (
              <ReferenceArea key={from} x1={from} x2={to} fill="var(--look)" fillOpacity={0.12} />
            ))}
            <XAxis
              dataKey="hour"
              type="number"
              domain={[0, Math.max(1, last)]}
              tickFormatter={clock}
              tick={TICK}
              stroke="var(--edge)"
              minTickGap={40}
            />
            <YAxis domain={[0, 100]} unit=" %" tick={TICK} stroke="var(--edge)" width={64} />
            <Tooltip {...TOOLTIP} labelFormatter={(hour) => clock(Number(hour))} />
            <ReferenceLine y={floor} stroke="var(--stop)" strokeDasharray="5 4" />
            <ReferenceLine x={now} stroke="var(--ink)" />
            <Area
              dataKey="charge"
              name="charge, %"
              stroke="var(--ink)"
              strokeWidth={2}
              fill="var(--r2)"
              isAnimationActive={false}
            />
          </AreaChart>
        </ResponsiveContainer>
      </div>
      <figcaption className="text-[13px] text-ink3">
        From {clock(0)}, {points[0]?.charge ?? 0} %, {endInWords(forecast.line.length - 1, points)}. Dashed:{' '}
        {floor} %, below which {bank.chemistry} suffers. {sun.length > 0 && 'Shaded: hours of sun.'}
      </figcaption>
      <LoadBars loads={loads} />
    </figure>
  );
}

const endInWords = (hours: number, points: readonly { charge: number }[]): string =>
  points.at(-1)?.charge === 0
    ? `to empty after ${hours} h`
    : `${points.at(-1)?.charge ?? 0} % after ${points.length - 1} h`;

/** Stretches of hours with sun, as hours from the beginning. */
export function sunnyHours(sun: readonly number[], fromMs: number, last: number): [number, number][] {
  const began = new Date(fromMs);
  const first = began.getHours() + began.getMinutes() / 60;
  const stretches: [number, number][] = [];
  for (let hour = 0; hour < last; hour++) {
    if ((sun[Math.floor(first + hour) % 24] ?? 0) <= 0) continue;
    const open = stretches.at(-1);
    if (open?.[1] === hour) open[1] = hour + 1;
    else stretches.push([hour, hour + 1]);
  }
  return stretches;
}

/** What each load takes in a day. */
function LoadBars({ loads }: { loads: readonly LoadSettings[] }) {
  const days = loads.map(({ name, amps, sharePercent }) => ({ name, ampHours: amps * sharePercent * 0.24 }));
  const most = Math.max(0.1, ...days.map(({ ampHours }) => ampHours));
  if (days.length === 0) return <p className="pt-3 text-[14px]">Nothing draws yet: add a load.</p>;
  return (
    <ul aria-label="What draws in a day" className="pt-3 text-[14px]">
      {days.map(({ name, ampHours }, at) => (
        <li
          key={at}
          className="grid grid-cols-[11rem_1fr_5rem] items-center gap-3 py-0.5 max-md:grid-cols-[8rem_1fr_4.5rem]"
        >
          <span className="truncate">{name}</span>
          <span className="h-2.5 bg-(--r4)" style={{ width: `${(100 * ampHours) / most}%` }} aria-hidden />
          <span className="text-right font-mono text-[13px]">{ampHours.toFixed(1)} Ah</span>
        </li>
      ))}
    </ul>
  );
}
