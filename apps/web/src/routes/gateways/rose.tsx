import { facilityKey } from '@mistpeak/core/gateways/facility';
import type { Ranked } from '@mistpeak/core/gateways/rank';
import { formatDistance, type UnitSystem } from '@mistpeak/core/units/units';
import type { GroundWay } from './order';

const SIZE = 440;
const MIDDLE = SIZE / 2;
const OUTER = 178;
const SHOWN = 16;
const RINGS_KM = [2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000] as const;
/** How high the highest ground stands beside its ray. */
const RIDGE_PX = 15;

/** The bearings, each with the ground towards it; the numbers are those of the list beside it, which says the same in words. */
export function Rose({
  ranked,
  ground,
  units,
  chosen,
  choose,
}: {
  ranked: readonly Ranked[];
  ground: ReadonlyMap<string, GroundWay>;
  units: UnitSystem;
  chosen: string | undefined;
  choose: (key: string) => void;
}) {
  const shown = ranked
    .map((one, i) => ({ one, number: i + 1 }))
    .filter(({ one }) => one.distanceKm !== undefined)
    .slice(0, SHOWN);
  const farKm = Math.max(5, ...shown.map(({ one }) => one.distanceKm as number));
  const radius = (km: number): number => (OUTER * Math.log1p(km / 2)) / Math.log1p(farKm / 2);
  const numbers = numbersByPlace(shown);
  const rings = RINGS_KM.filter((km) => km < farKm * 0.9).slice(-4);
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      role="img"
      aria-label={`Bearings from here, ${shown.length} of them, with the ground towards each`}
      className="block w-full max-w-[27.5rem]"
    >
      {rings.map((km) => (
        <g key={km}>
          <circle cx={MIDDLE} cy={MIDDLE} r={radius(km)} fill="none" stroke="var(--line)" />
          <text
            x={MIDDLE + 3}
            y={MIDDLE - radius(km) - 2}
            className="font-mono text-[10px]"
            fill="var(--ink3)"
          >
            {formatDistance(km, units)}
          </text>
        </g>
      ))}
      {(['N', 'E', 'S', 'W'] as const).map((wind, i) => (
        <text
          key={wind}
          x={MIDDLE + Math.sin((i * Math.PI) / 2) * (OUTER + 32)}
          y={MIDDLE - Math.cos((i * Math.PI) / 2) * (OUTER + 32) + 4}
          textAnchor="middle"
          className="text-[13px] font-[640]"
          fill="var(--ink2)"
        >
          {wind}
        </text>
      ))}
      {shown.toReversed().map(({ one, number }) => {
        const key = facilityKey(one.facility);
        return (
          <Ray
            key={key}
            one={one}
            numbers={numbers.get(number) ?? ''}
            lengthPx={radius(one.distanceKm as number)}
            way={ground.get(key)}
            isChosen={key === chosen}
            choose={() => choose(key)}
          />
        );
      })}
      <circle cx={MIDDLE} cy={MIDDLE} r="4" fill="var(--ink)" />
    </svg>
  );
}

function Ray({
  one,
  numbers,
  lengthPx,
  way,
  isChosen,
  choose,
}: {
  one: Ranked;
  numbers: string;
  lengthPx: number;
  way: GroundWay | undefined;
  isChosen: boolean;
  choose: () => void;
}) {
  const isFree = one.chance >= 0.7;
  const ink = isFree ? 'var(--proved)' : one.chance >= 0.3 ? 'var(--ink2)' : 'var(--ink3)';
  const turned = `rotate(${one.bearingDeg ?? 0} ${MIDDLE} ${MIDDLE})`;
  const end = MIDDLE - lengthPx;
  const isSilent = one.tries > 0 && one.answers === 0;
  return (
    <g onClick={choose} className="cursor-pointer" opacity={isChosen ? 1 : 0.92}>
      <g transform={turned}>
        {way && <polygon points={ridge(way.heightsM, lengthPx)} fill="var(--r2)" opacity="0.75" />}
        <line
          x1={MIDDLE}
          x2={MIDDLE}
          y1={MIDDLE}
          y2={end}
          stroke={ink}
          strokeWidth={isChosen ? 3 : isFree ? 2 : 1.2}
          strokeDasharray={one.chance < 0.3 ? '3 4' : undefined}
        />
        {way?.blockedAt !== undefined && (
          <line
            x1={MIDDLE - 7}
            x2={MIDDLE + 7}
            y1={MIDDLE - lengthPx * way.blockedAt}
            y2={MIDDLE - lengthPx * way.blockedAt}
            stroke="var(--look)"
            strokeWidth="3"
          />
        )}
        {isSilent ? (
          <path d={`M${MIDDLE - 5} ${end - 5}l10 10m0-10l-10 10`} stroke="var(--look)" strokeWidth="2.4" />
        ) : (
          <circle
            cx={MIDDLE}
            cy={end}
            r="5.5"
            stroke={ink}
            strokeWidth="2"
            fill={one.answers > 0 ? ink : 'var(--sheet)'}
          />
        )}
      </g>
      <NumberAt numbers={numbers} bearingDeg={one.bearingDeg ?? 0} radiusPx={lengthPx + 16} />
    </g>
  );
}

function NumberAt({
  numbers,
  bearingDeg,
  radiusPx,
}: {
  numbers: string;
  bearingDeg: number;
  radiusPx: number;
}) {
  const turn = (bearingDeg * Math.PI) / 180;
  return (
    <text
      x={MIDDLE + Math.sin(turn) * radiusPx}
      y={MIDDLE - Math.cos(turn) * radiusPx + 4.5}
      textAnchor="middle"
      className="font-mono text-[13px] font-[640]"
      fill="var(--ink)"
    >
      {numbers}
    </text>
  );
}

/** Those that stand at one place share one label: the first of them has it. */
function numbersByPlace(shown: readonly { one: Ranked; number: number }[]): ReadonlyMap<number, string> {
  const places = new Map<string, number[]>();
  for (const { one, number } of shown) {
    const place = `${Math.round(one.bearingDeg ?? 0)} ${one.distanceKm?.toFixed(1)}`;
    places.set(place, [...(places.get(place) ?? []), number]);
  }
  return new Map([...places.values()].map((numbers) => [numbers[0] as number, numbers.join(' ')]));
}

/** The ground beside its ray, outwards; the highest as wide as RIDGE_PX. */
function ridge(heightsM: readonly number[], lengthPx: number): string {
  const lowest = Math.min(0, ...heightsM);
  const span = Math.max(200, Math.max(...heightsM) - lowest);
  const points = heightsM.map((heightM, i) => {
    const y = MIDDLE - (i / (heightsM.length - 1)) * lengthPx;
    return `${(MIDDLE + ((heightM - lowest) / span) * RIDGE_PX).toFixed(1)},${y.toFixed(1)}`;
  });
  return [`${MIDDLE},${MIDDLE}`, ...points, `${MIDDLE},${MIDDLE - lengthPx}`].join(' ');
}
