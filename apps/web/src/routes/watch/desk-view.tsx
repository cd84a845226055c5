import { lazy, Suspense, useMemo, useState } from 'react';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { WatchView } from '@mistpeak/contract/watch';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { useTracks } from '../../live/tracks';
import type { MapLabels } from '../../pieces/map/station-layer';
import { Choice } from '../../pieces/choice';
import { AlarmLine } from './alarm-line';
import { DutyNotes, DutyRows } from './duty-notes';
import { watchSentence } from './fare-words';
import { nameOf, peopleOf } from './people';
import { WatchRows } from './watch-rows';

const StationMap = lazy(() => import('../../pieces/map/station-map'));
const SHOWN_ENTRIES = 12;
const NO_WAY = [] as const;
const LABELS: Readonly<Record<MapLabels, string>> = {
  always: 'always',
  selected: 'of the selected',
  none: 'none',
};

/** Who is fine, who is not; what to do now; what was done. The map is second. */
export function DeskView({ watch, operator }: { watch: WatchView; operator: OperatorView }) {
  const sightings = useLive((state) => state.sightings);
  const duty = useLive((state) => state.duty);
  const stations = useLive((state) => state.stations);
  const nowMs = useNow(2000);
  const tracks = useTracks(nowMs);
  const [selected, select] = useState<string>();
  const [group, setGroup] = useState('');
  const [isEverybody, showEverybody] = useState(false);
  const everybody = peopleOf(watch, sightings, nowMs);
  const people = everybody.filter(({ watched }) => group === '' || watched.group === group);
  const groups = [...new Set(watch.settings.watched.map((one) => one.group))].filter(Boolean).sort();
  const calls = useMemo(
    () =>
      new Set(
        watch.settings.watched.filter((one) => group === '' || one.group === group).map(({ call }) => call),
      ),
    [watch.settings.watched, group],
  );
  const shown = useMemo(
    () => (isEverybody ? stations : new Map([...stations].filter(([name]) => calls.has(name)))),
    [isEverybody, stations, calls],
  );
  const shownTracks = useMemo(
    () => tracks.filter(({ name }) => isEverybody || calls.has(name)),
    [tracks, isEverybody, calls],
  );
  const [labels, setLabels] = useState<MapLabels>('always');
  // On the map the short half does: `Cart A` of `Cart A, lamps`.
  const names = useMemo(
    () => new Map(watch.settings.watched.map((one) => [one.call, nameOf(one).split(',')[0] ?? one.call])),
    [watch.settings.watched],
  );
  const one = people.find(({ watched }) => watched.call === selected)?.watched;
  return (
    <>
      <p className="px-7 pb-2 text-[1.35rem] leading-tight font-[650] max-md:px-4">
        {watchSentence(everybody.map(({ standing }) => standing.fare))}
      </p>
      <AlarmLine people={everybody} nowMs={nowMs} units={operator.units} />
      <div className="grid gap-x-6 gap-y-4 px-7 py-3 max-md:px-4 xl:grid-cols-[minmax(0,1.75fr)_minmax(300px,1fr)]">
        <div className="min-w-0">
          {groups.length > 0 && (
            <label className="flex items-center gap-2 pb-2 text-[13.5px] font-[620]">
              Show
              <select
                value={group}
                onChange={({ target }) => setGroup(target.value)}
                className="rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 font-[450] max-md:min-h-11"
              >
                <option value="">everybody on the list</option>
                {groups.map((name) => (
                  <option key={name}>{name}</option>
                ))}
              </select>
            </label>
          )}
          <WatchRows
            people={people}
            nowMs={nowMs}
            units={operator.units}
            selected={selected}
            select={(call) => select(call === selected ? undefined : call)}
          />
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          <div className="h-[320px] border border-line">
            <Suspense fallback={<p className="p-4 text-ink2">Unfolding the map …</p>}>
              <StationMap
                operator={operator}
                stations={shown}
                tracks={shownTracks}
                selected={selected}
                focus={selected}
                way={NO_WAY}
                legs={watch.settings.legs}
                names={names}
                labels={labels}
                nowMs={nowMs}
                select={select}
              />
            </Suspense>
          </div>
          <div className="flex flex-wrap items-center gap-x-5">
            <Choice label="Everybody on the air on the map" isOn={isEverybody} set={showEverybody} />
            <label className="flex items-center gap-2 text-[14.5px]">
              Names
              <select
                value={labels}
                onChange={({ target }) => setLabels(target.value as MapLabels)}
                className="rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 max-md:min-h-11"
              >
                {Object.entries(LABELS).map(([id, words]) => (
                  <option key={id} value={id}>
                    {words}
                  </option>
                ))}
              </select>
            </label>
          </div>
          <DutyNotes about={one?.call} name={one ? nameOf(one) : undefined} />
          <DutyRows entries={duty.slice(-SHOWN_ENTRIES).reverse()} />
        </div>
      </div>
    </>
  );
}
