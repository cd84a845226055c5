import { useState } from 'react';
import type { Camp } from '@mistpeak/core/proof/ladder';
import { useNow } from '../../live/now';
import { CampMark } from '../../pieces/camp-mark';
import { describeCamp } from '../../pieces/camp-words';
import { useWidth } from '../../pieces/width';
import { EvidenceNote } from './evidence-note';
import { campPoints, filled, ridge, type Point } from './ridge';

const HEIGHT = 300;
/** On the first visit the next step stays in sight below it. */
const LOW = 170;
const NARROW = 620;
const RIDGES = [
  { lift: 1, fill: 'var(--r1)' },
  { lift: 0.5, fill: 'var(--r2)' },
  { lift: 0, fill: 'var(--r3)' },
] as const;

/** The proof ladder as a ridge that rises out of the fog: what is proved stands clear. For screen readers it is a list. */
export function ClimbPicture({ camps, isLow }: { camps: readonly Camp[]; isLow: boolean }) {
  const [chosen, choose] = useState<string>();
  const [ref, width] = useWidth();
  const camp = camps.find(({ rung }) => rung === chosen);
  const isNarrow = width < NARROW;
  return (
    <section aria-label="The climb" className="overflow-hidden rounded-[11px] border border-line bg-sheet">
      <h2 className="px-5 pt-3">
        The climb{' '}
        <small className="ml-2 text-[13.5px] font-[400] text-ink2">
          each camp is lit by something that happened, and fades when it grows old
        </small>
      </h2>
      <div ref={ref}>
        {isNarrow ? (
          <Upright camps={camps} chosen={chosen} choose={choose} />
        ) : (
          <Ridge camps={camps} width={width} height={isLow ? LOW : HEIGHT} chosen={chosen} choose={choose} />
        )}
      </div>
      {camp && <EvidenceNote camp={camp} close={() => choose(undefined)} />}
    </section>
  );
}

interface CampsProps {
  readonly camps: readonly Camp[];
  readonly chosen: string | undefined;
  readonly choose: (rung: string | undefined) => void;
}

function Ridge({ camps, width, height, chosen, choose }: CampsProps & { width: number; height: number }) {
  const points = campPoints(camps.length);
  const reached = camps.findIndex(({ state }) => state !== 'lit');
  const clear =
    reached < 0
      ? 1
      : reached === 0
        ? 0
        : ((points[reached - 1] as Point).x + (points[reached] as Point).x) / 2;
  return (
    <div className="relative" style={{ height }}>
      <Ground
        points={points}
        reached={reached < 0 ? camps.length : reached}
        clear={clear}
        width={width}
        height={height}
      />
      <ol>
        {camps.map((camp, i) => (
          <CampOnRidge
            key={camp.rung}
            camp={camp}
            point={points[i] as Point}
            height={height}
            isChosen={chosen === camp.rung}
            choose={choose}
          />
        ))}
      </ol>
    </div>
  );
}

function Ground({
  points,
  reached,
  clear,
  width,
  height,
}: {
  points: readonly Point[];
  reached: number;
  clear: number;
  width: number;
  height: number;
}) {
  const line = (some: readonly Point[]): string =>
    some.map(({ x, y }) => `${x * width},${y * height}`).join(' ');
  return (
    <svg width={width} height={height} aria-hidden className="absolute inset-0">
      <defs>
        <linearGradient id="fog" x1="0" x2="1">
          <stop offset={Math.max(0, clear - 0.06)} stopColor="var(--sheet)" stopOpacity="0" />
          <stop
            offset={Math.min(1, clear + 0.14)}
            stopColor="var(--sheet)"
            stopOpacity={clear >= 1 ? 0 : 0.76}
          />
          <stop offset="1" stopColor="var(--sheet)" stopOpacity={clear >= 1 ? 0 : 0.92} />
        </linearGradient>
      </defs>
      {RIDGES.map(({ lift, fill }) => (
        <path key={lift} d={filled(ridge(points, lift), width, height)} fill={fill} />
      ))}
      <rect width={width} height={height} fill="url(#fog)" />
      <polyline
        points={line(points.slice(0, reached))}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="3"
        strokeLinejoin="round"
      />
      <polyline
        points={line(points.slice(Math.max(0, reached - 1)))}
        fill="none"
        stroke="var(--ink3)"
        strokeWidth="2"
        strokeDasharray="2 6"
        strokeLinecap="round"
      />
    </svg>
  );
}

function CampOnRidge({
  camp,
  point,
  height,
  isChosen,
  choose,
}: {
  camp: Camp;
  point: Point;
  height: number;
  isChosen: boolean;
  choose: CampsProps['choose'];
}) {
  return (
    <li
      className="absolute -translate-x-1/2"
      style={{ left: `${point.x * 100}%`, bottom: height - point.y * height - 10 }}
    >
      <CampButton camp={camp} isChosen={isChosen} choose={choose} className="flex-col">
        <span aria-hidden className="my-1 h-5 border-l border-ink3" />
      </CampButton>
    </li>
  );
}

/** On a phone the climb turns upright: the top above, the foot below. */
function Upright({ camps, chosen, choose }: CampsProps) {
  return (
    <ol className="flex flex-col-reverse gap-0 px-5 py-3">
      {camps.map((camp, i) => (
        <li key={camp.rung} className="flex flex-col-reverse">
          <CampButton
            camp={camp}
            isChosen={chosen === camp.rung}
            choose={choose}
            className="min-h-11 flex-row-reverse justify-end gap-3"
          />
          {i < camps.length - 1 && (
            <span
              aria-hidden
              className={`ml-2.5 h-4 border-l-2 ${camps[i + 1]?.state === 'lit' ? 'border-ink' : 'border-dotted border-ink3'}`}
            />
          )}
        </li>
      ))}
    </ol>
  );
}

function CampButton({
  camp,
  isChosen,
  choose,
  className,
  children,
}: {
  camp: Camp;
  isChosen: boolean;
  choose: CampsProps['choose'];
  className: string;
  children?: React.ReactNode;
}) {
  const nowMs = useNow();
  const isBold = camp.state === 'lit' || camp.state === 'doubtful';
  return (
    <button
      type="button"
      aria-expanded={isChosen}
      onClick={() => choose(isChosen ? undefined : camp.rung)}
      className={`flex items-center whitespace-nowrap ${className}`}
    >
      <span className="rounded-md bg-sheet px-1.5 text-center leading-tight max-md:text-left">
        <span className={`block text-[13.5px] ${isBold ? 'font-[620] text-ink' : 'text-ink2'}`}>
          {capitalised(camp.rung)}
        </span>
        <span
          className={`block font-mono text-[12.5px] ${camp.state === 'doubtful' ? 'text-look' : 'text-ink2'}`}
        >
          {describeCamp(camp, nowMs)}
        </span>
      </span>
      {children}
      <CampMark state={camp.state} />
    </button>
  );
}

export function capitalised(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
