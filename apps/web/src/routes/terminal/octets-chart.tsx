import { CartesianGrid, Legend, Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { SaidView } from '@mistpeak/contract/sessions';

interface Point {
  readonly seconds: number;
  readonly mine: number;
  readonly theirs: number;
}

/** Sums of both sides, from the first word on. */
export function sums(said: readonly SaidView[]): Point[] {
  const begunMs = said[0]?.atMs ?? 0;
  let mine = 0;
  let theirs = 0;
  return said.map(({ side, atMs, hex }) => {
    if (side === 'mine') mine += hex.length / 2;
    else theirs += hex.length / 2;
    return { seconds: (atMs - begunMs) / 1000, mine, theirs };
  });
}

/** Mine and theirs, told apart by dash as well as by ink; the words above say the same. */
export function OctetsChart({ said }: { said: readonly SaidView[] }) {
  const tick = { fill: 'var(--ink2)', fontSize: 12 };
  return (
    <div className="h-40" aria-hidden>
      <ResponsiveContainer width="100%" height="100%">
        <LineChart
          accessibilityLayer={false}
          data={sums(said)}
          margin={{ top: 6, right: 8, bottom: 0, left: -14 }}
        >
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis
            dataKey="seconds"
            type="number"
            domain={[0, 'dataMax']}
            tick={tick}
            stroke="var(--edge)"
            tickFormatter={timeWords}
          />
          <YAxis tick={tick} stroke="var(--edge)" width={56} />
          <Legend iconType="plainline" wrapperStyle={{ fontSize: 12.5, color: 'var(--ink2)' }} />
          <Line
            dataKey="mine"
            name="mine"
            type="stepAfter"
            dot={false}
            stroke="var(--ink)"
            strokeDasharray="6 3"
            isAnimationActive={false}
          />
          <Line
            dataKey="theirs"
            name="theirs"
            type="stepAfter"
            dot={false}
            stroke="var(--r4)"
            isAnimationActive={false}
          />
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}

const timeWords = (seconds: number): string =>
  seconds < 120 ? `${Math.round(seconds)} s` : `${(seconds / 60).toFixed(seconds < 600 ? 1 : 0)} min`;
