import { lazy, memo, Suspense, useCallback, useMemo, useState } from 'react';
import { ToggleGroup } from 'radix-ui';
import { useParams, useSearchParams } from 'react-router';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { Position } from '@mistpeak/core/geo/position';
import { useIsWatcher } from '../../live/access';
import { useNow } from '../../live/now';
import { Button } from '../../pieces/button';
import { useLive } from '../../live/store';
import { ChannelLanes } from '../../pieces/channel-lanes';
import { FrameWay } from '../../pieces/frame-way';
import { FrameLog } from './frame-log';
import { useMapSettings } from '../../pieces/map/map-settings';
import type { StationMapProps } from '../../pieces/map/station-map';
import { NOTHING, selectionOfFrame, wayOf, type Selection } from './selection';
import { OwnObjects, type ObjectBegun } from './own-objects';
import { ReplayView } from './replay-view';
import { RoadView } from './road-view';
import { StationList } from './station-list';
import { StationNote } from './station-note';
import { VoiceView } from './voice-view';
import { useTracks } from '../../live/tracks';

// Map and charts are large, and nobody needs them to see the Bench.
const StationMap = lazy(() => import('../../pieces/map/station-map'));
/** A map that nobody sees stands still, and is there at once when it is seen again. */
const KeptMap = memo(
  function KeptMap({ isShown: _, ...props }: StationMapProps & { isShown: boolean }) {
    return <StationMap {...props} />;
  },
  (_, { isShown }) => !isShown,
);
const StationPage = lazy(() => import('./station-page'));
const WeatherBoard = lazy(() => import('./weather-board'));
const ChannelView = lazy(() => import('./channel-view'));

const SHOWS = {
  map: 'Map',
  log: 'Log',
  weather: 'Weather',
  channel: 'Channel',
  voice: 'Voice channels',
  road: 'On the road',
  objects: 'My objects',
  replay: 'Replay',
} as const;
type Show = keyof typeof SHOWS;
const showOf = (text: string | null): Show => (text !== null && text in SHOWS ? (text as Show) : 'map');

/** Who is there, how did it reach me, was I heard? One selection across lanes, map, log and list. */
export function AirPage() {
  const { station } = useParams();
  const operator = useLive((state) => state.operator) as OperatorView;
  return station === undefined ? (
    <Overview operator={operator} />
  ) : (
    <Suspense>
      <StationPage key={station} name={station} operator={operator} />
    </Suspense>
  );
}

function Overview({ operator }: { operator: OperatorView }) {
  const frames = useLive((state) => state.frames);
  const stations = useLive((state) => state.stations);
  const nowMs = useNow(5000);
  const trackHours = useMapSettings((state) => state.trackHours);
  const tracks = useTracks(nowMs, trackHours);
  const [selection, setSelection] = useState<Selection>(NOTHING);
  const [search, setSearch] = useSearchParams();
  const shown = showOf(search.get('show'));
  const [wasMapSeen, setMapSeen] = useState(shown === 'map');
  if (shown === 'map' && !wasMapSeen) setMapSeen(true);
  const [begun, setBegun] = useState<ObjectBegun>();
  const isWatcher = useIsWatcher();
  const beginObject = useCallback(
    (one: ObjectBegun) => {
      setBegun(one);
      setSearch({ show: 'objects' });
    },
    [setSearch],
  );
  const atPlace = useCallback(
    (place: Position, close: () => void) =>
      isWatcher ? null : (
        <Button
          onClick={() => {
            close();
            beginObject({ place });
          }}
        >
          Put an object here …
        </Button>
      ),
    [isWatcher, beginObject],
  );
  const record = useMemo(
    () => selection.record ?? frames.find(({ id }) => id === selection.frameId),
    [frames, selection.frameId, selection.record],
  );
  // The same for ever, looking up what is there when it is called: with each frame a new one would redraw every row.
  const selectFrame = useCallback((id: string) => {
    const found = useLive.getState().frames.find((frame) => frame.id === id);
    if (found) setSelection(selectionOfFrame(found));
  }, []);
  // Also one of long ago, which is not at hand.
  const selectRecord = useCallback((one: FrameRecord) => setSelection(selectionOfFrame(one)), []);
  const selectStation = useCallback((name: string) => {
    setSelection({ station: name, frameId: useLive.getState().stations.get(name)?.frameId });
  }, []);
  const way = useMemo(() => wayOf(record, stations, operator), [record, operator, selection]); // oxlint-disable-line react-hooks/exhaustive-deps
  const isListed = shown === 'map' || shown === 'log';
  return (
    <div className="flex min-h-full flex-col md:h-full md:min-h-0">
      <h1 className="sr-only">Air</h1>
      <section
        aria-label="The last five minutes on the channel"
        className={`bg-sheet px-6 pt-3 pb-1 max-md:px-4 ${shown === 'road' ? 'hidden' : ''}`}
      >
        <ChannelLanes selected={selection.frameId} select={selectFrame} />
      </section>
      <Shows shown={shown} show={(what) => setSearch(what === 'map' ? {} : { show: what })} />
      {!isListed && (
        <div className="min-h-0 flex-1 md:overflow-y-auto">
          <Suspense fallback={<p className="p-6 text-ink2">Looking it up …</p>}>
            {shown === 'weather' && <WeatherBoard operator={operator} />}
            {shown === 'channel' && <ChannelView />}
            {shown === 'voice' && <VoiceView operator={operator} />}
            {shown === 'objects' && <OwnObjects begun={begun} done={() => setBegun(undefined)} />}
            {shown === 'replay' && <ReplayView begun={() => setSearch({})} />}
            {shown === 'road' && <RoadView operator={operator} />}
          </Suspense>
        </div>
      )}
      <div hidden={!isListed} className={isListed ? 'grid min-h-0 flex-1 md:grid-cols-[1fr_300px]' : ''}>
        <div className="relative flex min-h-0 min-w-0 flex-col">
          {wasMapSeen && (
            <div
              hidden={shown !== 'map'}
              className="relative min-h-0 flex-1 max-md:h-[52dvh] max-md:flex-none"
            >
              <Suspense fallback={<p className="p-6 text-ink2">Unfolding the map …</p>}>
                <KeptMap
                  isShown={shown === 'map'}
                  operator={operator}
                  stations={stations}
                  tracks={tracks}
                  selected={selection.station}
                  way={way}
                  nowMs={nowMs}
                  select={selectStation}
                  atPlace={atPlace}
                />
              </Suspense>
            </div>
          )}
          {shown === 'log' && (
            <FrameLog
              frames={frames}
              operator={operator}
              selected={selection.frameId}
              select={selectRecord}
            />
          )}
          <Selected selection={selection} clear={() => setSelection(NOTHING)} isOverMap={shown === 'map'}>
            {selection.station !== undefined && (
              <StationNote
                name={selection.station}
                operator={operator}
                takeOver={isWatcher ? undefined : beginObject}
              />
            )}
            {record && <FrameWay record={record} manner={operator} isShort={shown === 'map'} />}
          </Selected>
        </div>
        <StationList operator={operator} selected={selection.station} select={selectStation} />
      </div>
    </div>
  );
}

function Shows({ shown, show }: { shown: Show; show: (what: Show) => void }) {
  return (
    <ToggleGroup.Root
      type="single"
      value={shown}
      onValueChange={(value) => value && show(value as Show)}
      aria-label="Show"
      className="flex overflow-x-auto border-b border-ink bg-sheet px-5 text-[13.5px] max-md:px-2"
    >
      {Object.entries(SHOWS).map(([id, words]) => (
        <ToggleGroup.Item
          key={id}
          value={id}
          className="-mb-px border-b-[2.5px] border-transparent px-2.5 py-1 whitespace-nowrap text-ink2 hover:text-ink data-[state=on]:border-ink data-[state=on]:font-[640] data-[state=on]:text-ink max-md:min-h-11"
        >
          {words}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

/** What is selected: over the map's corner on a desk, below it on a phone. */
function Selected({
  selection,
  clear,
  isOverMap,
  children,
}: {
  selection: Selection;
  clear: () => void;
  isOverMap: boolean;
  children: React.ReactNode;
}) {
  if (selection.frameId === undefined && selection.station === undefined) return null;
  const place = isOverMap
    ? 'md:absolute md:bottom-3 md:left-3 md:z-10 md:w-[360px] md:max-h-[calc(100%-24px)] md:overflow-y-auto md:rounded-xl md:border md:border-edge'
    : 'border-t border-line md:max-h-[45%] md:overflow-y-auto';
  return (
    <div className={`flex flex-col gap-2.5 bg-raise px-4 py-3 ${place}`}>
      <button
        type="button"
        onClick={clear}
        aria-label="Select nothing"
        className="absolute right-2 z-10 hidden size-8 rounded text-ink2 hover:text-ink md:block"
      >
        ×
      </button>
      {children}
    </div>
  );
}
