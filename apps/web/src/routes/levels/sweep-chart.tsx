import { Bar, BarChart, CartesianGrid, Cell, ErrorBar, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { SweepVerdict } from '@mistpeak/core/levels/sweep';

/** Packets decoded at each position, with their bounds; the list beside says the same in numbers. */
export function SweepChart({ verdict }: { verdict: SweepVerdict }) {
  const points = verdict.steps.map(({ position, success: { share, from, to } }) => ({
    position,
    share: 100 * share,
    bounds: [100 * (share - from), 100 * (to - share)],
  }));
  const tick = { fill: 'var(--ink2)', fontSize: 12 };
  return (
    <div className="h-48" aria-hidden>
      <ResponsiveContainer width="100%" height="100%">
        <BarChart
          accessibilityLayer={false}
          data={points}
          margin={{ top: 8, right: 8, bottom: 4, left: -18 }}
        >
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis dataKey="position" tick={tick} stroke="var(--edge)" />
          <YAxis domain={[0, 100]} tick={tick} stroke="var(--edge)" unit=" %" width={64} />
          <Bar dataKey="share" isAnimationActive={false}>
            {points.map(({ position }) => (
              <Cell
                key={position}
                fill={position === verdict.best ? 'var(--provedfill)' : 'var(--r3)'}
                stroke="var(--ink)"
                strokeWidth={position === verdict.best ? 1.5 : 0}
              />
            ))}
            <ErrorBar dataKey="bounds" stroke="var(--ink)" strokeWidth={1.2} width={5} />
          </Bar>
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}
