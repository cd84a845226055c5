import { bulgeM } from '@mistpeak/core/propagation/profile';
import { fresnelRadiusM } from '@mistpeak/core/propagation/free-space';
import type { PathJobs } from '../../workers/path-messages';
import { useWidth } from '../../pieces/width';

const HEIGHT_PX = 220;
const EDGE = { left: 46, right: 12, top: 14, bottom: 26 };

/** The ground between two antennas with the earth's bulge, the line of sight, and the first Fresnel ellipsoid round it. */
export function ProfileDrawing({
  reach,
  frequencyMHz,
  ends,
}: {
  reach: PathJobs['reach']['answer'];
  frequencyMHz: number;
  ends: readonly [string, string];
}) {
  const [holder, width] = useWidth();
  const { distancesKm, heightsM, antenna1M, antenna2M, distanceKm, clearance } = reach;
  const ground = heightsM.map((heightM, i) => heightM + bulgeM(distancesKm[i] as number, distanceKm));
  const [end1M, end2M] = [(heightsM[0] ?? 0) + antenna1M, (heightsM.at(-1) ?? 0) + antenna2M];
  const line = distancesKm.map((km) => end1M + ((end2M - end1M) * km) / (distanceKm || 1));
  const zone = distancesKm.map((km) =>
    km === 0 || km >= distanceKm ? 0 : fresnelRadiusM(frequencyMHz, km, distanceKm - km),
  );
  const lowest = Math.min(0, ...ground);
  const highest = Math.max(...ground, ...line.map((m, i) => m + (zone[i] as number))) * 1.08 + 5;
  const x = (km: number): number => EDGE.left + (km / (distanceKm || 1)) * (width - EDGE.left - EDGE.right);
  const y = (m: number): number =>
    HEIGHT_PX - EDGE.bottom - ((m - lowest) / (highest - lowest)) * (HEIGHT_PX - EDGE.top - EDGE.bottom);
  const points = (heights: readonly number[]): string =>
    heights.map((m, i) => `${x(distancesKm[i] as number).toFixed(1)},${y(m).toFixed(1)}`).join(' ');
  const above = line.map((m, i) => m + (zone[i] as number));
  const below = line.map((m, i) => m - (zone[i] as number));
  const back = [...below.keys()]
    .reverse()
    .map((i) => `${x(distancesKm[i] as number).toFixed(1)},${y(below[i] as number).toFixed(1)}`);
  return (
    <div ref={holder}>
      <svg
        role="img"
        aria-label={`The ground from ${ends[0]} to ${ends[1]}: ${distanceKm.toFixed(1)} km, highest ${Math.round(Math.max(...heightsM))} m`}
        width={width}
        height={HEIGHT_PX}
        className="block"
      >
        <polygon points={`${points(above)} ${back.join(' ')}`} fill="var(--provedfill)" opacity="0.25" />
        <polygon
          points={`${x(0)},${y(lowest)} ${points(ground)} ${x(distanceKm)},${y(lowest)}`}
          fill="var(--r2)"
          stroke="var(--r4)"
          strokeWidth="1.4"
        />
        <line
          x1={x(0)}
          y1={y(end1M)}
          x2={x(distanceKm)}
          y2={y(end2M)}
          stroke="var(--ink)"
          strokeWidth="1.4"
        />
        {[0, distanceKm].map((km, i) => (
          <line
            key={km + i}
            x1={x(km)}
            x2={x(km)}
            y1={y(i === 0 ? (heightsM[0] ?? 0) : (heightsM.at(-1) ?? 0))}
            y2={y(i === 0 ? end1M : end2M)}
            stroke="var(--ink)"
            strokeWidth="3"
          />
        ))}
        {Number.isFinite(clearance.radii) && clearance.radii < 1 && (
          <circle
            cx={x(clearance.km)}
            cy={y(end1M + ((end2M - end1M) * clearance.km) / (distanceKm || 1))}
            r="4.5"
            fill="var(--look)"
          />
        )}
        <g fontSize="12" fill="var(--ink2)" fontFamily="inherit">
          {[lowest, (lowest + highest) / 2, highest].map((m) => (
            <text key={m} x={EDGE.left - 6} y={y(m) + 4} textAnchor="end">
              {Math.round(m)} m
            </text>
          ))}
          <text x={x(0)} y={HEIGHT_PX - 8}>
            {ends[0]}
          </text>
          <text x={x(distanceKm / 2)} y={HEIGHT_PX - 8} textAnchor="middle">
            {distanceKm.toFixed(1)} km
          </text>
          <text x={x(distanceKm)} y={HEIGHT_PX - 8} textAnchor="end">
            {ends[1]}
          </text>
        </g>
      </svg>
    </div>
  );
}
