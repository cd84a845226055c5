import { ArrowLeft } from 'lucide-react';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { Problem } from '@mistpeak/contract/failures';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { StationView } from '@mistpeak/contract/station';
import { keepAsking } from '../../live/keep-asking';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { FrameWay } from '../../pieces/frame-way';
import { ProblemNote } from '../../pieces/problem-note';
import { SymbolMark } from '../../pieces/symbol-mark';
import { HeardChart } from './heard-chart';
import { LogRows } from './frame-log';
import { groupsOf } from './log-rows';
import { stationOf, wayOf } from './selection';
import { StationCharts } from './station-charts';
import { factsOf } from './station-note';
import { stationSeries } from './station-series';
import { useTracks } from '../../live/tracks';
import { waysOf } from './ways';

const StationMap = lazy(() => import('../../pieces/map/station-map'));
const FETCHED = 500;
const ROWS = 100;

/** One station: what it sent, how it reached us, where it was. */
export default function StationPage({ name, operator }: { name: string; operator: OperatorView }) {
  const station = useLive((state) => state.stations.get(name));
  if (!station)
    return (
      <div className="flex flex-col gap-3 p-6 max-md:p-4">
        <Back />
        <h1 className="font-mono">{name}</h1>
        <p className="text-ink2">Nothing has been heard of {name}. It appears here with its first packet.</p>
      </div>
    );
  return <KnownStation station={station} operator={operator} />;
}

function KnownStation({ station, operator }: { station: StationView; operator: OperatorView }) {
  const { name } = station;
  const { frames, problem } = useFramesOf(station);
  const stations = useLive((state) => state.stations);
  const nowMs = useNow(5000);
  const tracks = useTracks(nowMs);
  const [selected, select] = useState<string>();
  const series = useMemo(() => stationSeries(frames), [frames]);
  const selectRecord = useCallback(({ id }: FrameRecord) => select(id), []);
  const record = frames.find(({ id }) => id === selected) ?? frames.at(-1);
  // Once for each frame: stations that move meanwhile do not move its way.
  const way = useMemo(() => wayOf(record, stations, operator), [record, operator]); // oxlint-disable-line react-hooks/exhaustive-deps
  return (
    <div className="grid min-h-full md:h-full md:min-h-0 md:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <div className="flex min-h-0 flex-col gap-4 overflow-y-auto px-6 py-4 max-md:px-4">
        <Back />
        <header className="flex flex-col gap-1">
          <h1 className="flex items-center gap-2 font-mono">
            {station.symbol && <SymbolMark symbol={station.symbol} size={28} />}
            {name}
          </h1>
          <p className="text-[14px] text-ink2">{factsOf(station, operator, nowMs).join(' · ')}</p>
          {station.comment && <p>{station.comment}</p>}
        </header>
        {problem && <ProblemNote problem={problem} />}
        <Ways frames={frames} />
        <section aria-label="When it was heard">
          <h2 className="pb-1">When it was heard</h2>
          <HeardChart frames={frames} nowMs={nowMs} />
        </section>
        <StationCharts series={series} operator={operator} />
        <section aria-label="What it sent" className="flex flex-col gap-1">
          <h2>What it sent</h2>
          <p className="text-[13px] text-ink3">
            the last {Math.min(ROWS, frames.length)} of {station.count} frames heard, newest first
          </p>
          <LogRows
            groups={groupsOf(frames.slice(-ROWS), false)}
            operator={operator}
            selected={record?.id}
            select={selectRecord}
          />
        </section>
      </div>
      <div className="flex min-h-0 flex-col border-l border-line max-md:order-first max-md:border-l-0">
        <div className="min-h-0 flex-1 max-md:h-[38dvh] max-md:flex-none">
          <Suspense fallback={<p className="p-6 text-ink2">Unfolding the map …</p>}>
            <StationMap
              operator={operator}
              stations={stations}
              tracks={tracks}
              selected={name}
              way={way}
              nowMs={nowMs}
              focus={name}
              select={() => undefined}
            />
          </Suspense>
        </div>
        {record && (
          <div className="overflow-y-auto border-t border-line bg-raise px-5 py-3 md:max-h-[45%]">
            <FrameWay record={record} manner={operator} />
          </div>
        )}
      </div>
    </div>
  );
}

function Back() {
  return (
    <Link
      to="/air"
      className="flex w-fit items-center gap-1 text-[13.5px] text-ink2 hover:text-ink max-md:min-h-11"
    >
      <ArrowLeft className="size-4" aria-hidden /> Air
    </Link>
  );
}

/** By which ways its frames came. */
function Ways({ frames }: { frames: readonly FrameRecord[] }) {
  const ways = waysOf(frames);
  const most = Math.max(1, ...ways.map(({ count }) => count));
  return (
    <section aria-label="How it reached us">
      <h2 className="pb-1">How it reached us</h2>
      <table className="w-full text-[14px]">
        <thead className="sr-only">
          <tr>
            <th scope="col">way</th>
            <th scope="col">frames</th>
            <th scope="col">share</th>
          </tr>
        </thead>
        <tbody>
          {ways.map(({ way, count }) => (
            <tr key={way} className="border-t border-line">
              <td className="py-1 pr-3 font-mono text-[13px]">{way === '' ? 'direct' : way}</td>
              <td className="py-1 pr-3 text-right font-mono text-[13px]">{count}</td>
              <td className="w-1/3 py-1" aria-hidden>
                <span
                  className="block h-2.5 rounded-sm"
                  style={{
                    width: `${(100 * count) / most}%`,
                    background: way === '' ? 'var(--ink)' : 'var(--r4)',
                  }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Its last frames from the record, and those heard since. */
function useFramesOf({ name, sender }: StationView): {
  frames: readonly FrameRecord[];
  problem: Problem | undefined;
} {
  const [fetched, setFetched] = useState<readonly FrameRecord[]>([]);
  const [problem, setProblem] = useState<Problem>();
  const live = useLive((state) => state.frames);
  useEffect(() => {
    return keepAsking<FrameRecord[]>(
      `/frames/from/${encodeURIComponent(sender)}?limit=${FETCHED}`,
      (frames) => setFetched(frames.filter((frame) => stationOf(frame) === name)),
      setProblem,
    );
  }, [name, sender]);
  const frames = useMemo(() => {
    const known = new Set(fetched.map(({ id }) => id));
    return [...fetched, ...live.filter((frame) => !known.has(frame.id) && stationOf(frame) === name)];
  }, [fetched, live, name]);
  return { frames, problem };
}
