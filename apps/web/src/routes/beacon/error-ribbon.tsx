import type { TrackTrial } from '@mistpeak/core/beacon/track-trial';
import { useWidth } from '../../pieces/width';

const HEIGHT_PX = 78;
const EDGE = { left: 52, bottom: 22, top: 8 };

/** The error of the drawn track over time as a shaded ribbon, the beacons as pegs in it. The scale is the same for all plans. */
export function ErrorRibbon({
  trial: { errors, beacons, hours },
  greatestM,
}: {
  trial: TrackTrial;
  greatestM: number;
}) {
  const [holder, width] = useWidth();
  const endMs = hours * 3_600_000 || 1;
  const floor = HEIGHT_PX - EDGE.bottom;
  const x = (ms: number): number => EDGE.left + (ms / endMs) * (width - EDGE.left - 8);
  const y = (m: number): number => floor - (m / greatestM) * (floor - EDGE.top);
  const ribbon = errors.map(({ atMs, errorM }) => `${x(atMs).toFixed(1)},${y(errorM).toFixed(1)}`).join(' ');
  return (
    <div ref={holder}>
      <svg
        role="img"
        aria-label={`How far the drawn track lies off: up to ${Math.round(Math.max(0, ...errors.map(({ errorM }) => errorM)))} m; ${beacons.length} beacons`}
        width={width}
        height={HEIGHT_PX}
        className="block"
      >
        <polygon
          points={`${x(0)},${floor} ${ribbon} ${x(endMs)},${floor}`}
          fill="var(--r2)"
          stroke="var(--r4)"
        />
        <line x1={EDGE.left} x2={width - 8} y1={floor} y2={floor} stroke="var(--ink)" />
        {beacons.map(({ atMs }, i) => (
          <line
            key={i}
            x1={x(atMs)}
            x2={x(atMs)}
            y1={floor - 14}
            y2={floor + 4}
            stroke="var(--ink)"
            strokeWidth="2"
          />
        ))}
        <g fontSize="12" fill="var(--ink2)">
          <text x={EDGE.left - 6} y={y(greatestM) + 10} textAnchor="end">
            {Math.round(greatestM)} m
          </text>
          <text x={EDGE.left - 6} y={floor} textAnchor="end">
            0
          </text>
          <text x={EDGE.left} y={HEIGHT_PX - 4}>
            0 h
          </text>
          <text x={width - 8} y={HEIGHT_PX - 4} textAnchor="end">
            {hours.toFixed(1)} h
          </text>
        </g>
      </svg>
    </div>
  );
}
