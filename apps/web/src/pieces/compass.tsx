import { windName } from '@mistpeak/core/geo/position';

/** Where a station lies from here. */
export function Compass({ bearingDeg }: { bearingDeg: number }) {
  return (
    <svg width="34" height="34" viewBox="0 0 34 34" aria-hidden className="row-span-2">
      <circle cx="17" cy="17" r="15.5" fill="none" stroke="var(--line)" />
      <g transform={`rotate(${bearingDeg} 17 17)`}>
        <path d="M17 1.5 20.5 8 17 6.5 13.5 8z" fill="var(--ink)" />
      </g>
      <text x="17" y="21" textAnchor="middle" className="font-mono text-[11px]" fill="var(--ink2)">
        {windName(bearingDeg)}
      </text>
    </svg>
  );
}
