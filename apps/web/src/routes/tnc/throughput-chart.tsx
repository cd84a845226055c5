import {
  CartesianGrid,
  Legend,
  Line,
  LineChart,
  ReferenceDot,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import {
  PACKET_OCTETS,
  throughput,
  type ConnectionTerms,
  type Recommendation,
} from '@mistpeak/core/throughput/throughput';

/** Told apart by their dashes as well as by their ink. */
const LINES = [
  { window: 1, ink: 'var(--ink3)', dash: '2 3' },
  { window: 2, ink: 'var(--r4)', dash: '6 3' },
  { window: 4, ink: 'var(--ink)', dash: '' },
  { window: 7, ink: 'var(--look)', dash: '9 3 2 3' },
] as const;

/** Octets a second against PACLEN, a line for each window. The table beside says the same in numbers. */
export function ThroughputChart({ terms, chosen }: { terms: ConnectionTerms; chosen: Recommendation }) {
  const points = PACKET_OCTETS.map((packetOctets) => ({
    packetOctets,
    ...Object.fromEntries(
      LINES.map(({ window }) => [`w${window}`, throughput(terms, { packetOctets, window })]),
    ),
  }));
  const tick = { fill: 'var(--ink2)', fontSize: 12 };
  return (
    <div className="h-56" aria-hidden>
      <ResponsiveContainer width="100%" height="100%">
        <LineChart
          accessibilityLayer={false}
          data={points}
          margin={{ top: 8, right: 12, bottom: 18, left: -12 }}
        >
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis
            dataKey="packetOctets"
            type="number"
            domain={[32, 256]}
            ticks={[...PACKET_OCTETS]}
            tick={tick}
            stroke="var(--edge)"
            label={{ value: 'PACLEN, octets', position: 'insideBottom', offset: -12, ...tick }}
          />
          <YAxis tick={tick} stroke="var(--edge)" unit=" B/s" width={72} />
          <Tooltip
            formatter={(value) => `${Number(value).toFixed(0)} octets/s`}
            labelFormatter={(octets) => `PACLEN ${Number(octets)}`}
            contentStyle={{
              background: 'var(--raise)',
              border: '1px solid var(--edge)',
              color: 'var(--ink)',
            }}
          />
          <Legend
            verticalAlign="top"
            iconType="plainline"
            formatter={(name) => <span style={{ color: 'var(--ink2)', fontSize: 13 }}>{String(name)}</span>}
          />
          {LINES.map(({ window, ink, dash }) => (
            <Line
              key={window}
              dataKey={`w${window}`}
              name={`MAXFRAME ${window}`}
              stroke={ink}
              strokeDasharray={dash}
              strokeWidth={1.8}
              dot={false}
              isAnimationActive={false}
            />
          ))}
          <ReferenceDot
            x={chosen.packetOctets}
            y={chosen.octetsPerSecond}
            r={5}
            fill="var(--provedfill)"
            stroke="var(--ink)"
          />
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}
