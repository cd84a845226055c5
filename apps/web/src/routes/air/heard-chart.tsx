import { Bar, BarChart, Legend, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { formatClock } from '../../pieces/age';
import { heardBars } from './ways';
import { TICK, TOOLTIP } from '../../pieces/chart-looks';

const STRETCH_MS = 10 * 60_000;
const BARS = 24;

/** Frames heard in each ten minutes of the last four hours, by hops. The table of ways says the same in numbers. */
export function HeardChart({ frames, nowMs }: { frames: readonly FrameRecord[]; nowMs: number }) {
  const bars = heardBars(frames, nowMs, STRETCH_MS, BARS).map((bar) => ({
    ...bar,
    time: formatClock(bar.fromMs, 'utc').slice(0, 5),
  }));
  return (
    <div className="h-40" aria-hidden>
      <ResponsiveContainer width="100%" height="100%">
        <BarChart
          accessibilityLayer={false}
          data={bars}
          margin={{ top: 4, right: 4, bottom: 0, left: -28 }}
          barCategoryGap={2}
        >
          <XAxis dataKey="time" interval={5} tick={TICK} stroke="var(--edge)" />
          <YAxis allowDecimals={false} tick={TICK} stroke="var(--edge)" />
          <Tooltip {...TOOLTIP} />
          <Legend
            iconSize={10}
            formatter={(name) => <span style={{ color: 'var(--ink2)', fontSize: 13 }}>{String(name)}</span>}
          />
          <Bar dataKey="direct" name="direct" stackId="hops" fill="var(--ink)" isAnimationActive={false} />
          <Bar dataKey="oneHop" name="1 hop" stackId="hops" fill="var(--r4)" isAnimationActive={false} />
          <Bar dataKey="moreHops" name="2+ hops" stackId="hops" fill="var(--r3)" isAnimationActive={false} />
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}
