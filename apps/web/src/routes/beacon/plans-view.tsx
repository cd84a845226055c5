import { useMemo, useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { USUAL_PLANS, type BeaconPlan } from '@mistpeak/core/beacon/plan';
import { findFigures, timedTrack, tryPlan, type TrackTrial } from '@mistpeak/core/beacon/track-trial';
import { formatGeoJson } from '@mistpeak/core/tracks/geojson';
import { formatGpx } from '@mistpeak/core/tracks/gpx';
import { formatKml } from '@mistpeak/core/tracks/kml';
import { thinnedOut, type TrackFile, type TrackFix } from '@mistpeak/core/tracks/track';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { Track } from '@mistpeak/contract/station';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { NumberField, SelectField } from '../../pieces/field';
import MarkedMap, { type Line, type Mark } from '../../pieces/map/marked-map';
import { ProblemNote } from '../../pieces/problem-note';
import { saveFile } from '../../pieces/save-file';
import { TrackFile as TrackFileButton } from '../../pieces/track-file';
import { ErrorRibbon } from './error-ribbon';
import { useFrameOf } from './frame-of';
import { shareWords, useOwnCost } from '../../live/own-cost';
import { PlanFields } from './plan-fields';
import { PLAN_NAMES, planWords } from './plan-words';

/** Points of a line on the map; more cannot be told apart. */
const MOST_DRAWN = 3000;
/** Of a beacon as long as most, where none is saved yet. */
const USUAL_AIR_MS = 700;
const PAST_MS = 6 * 3_600_000;

interface Candidate {
  readonly id: number;
  readonly plan: BeaconPlan;
}

const FIRST: readonly Candidate[] = [
  { id: 1, plan: { kind: 'interval', everyMs: 2 * 60_000 } },
  { id: 2, plan: USUAL_PLANS['speed-and-turn'] },
  { id: 3, plan: USUAL_PLANS.distance },
];

/** One track through several plans: where beacons fall, how far the drawn track lies off, what it costs. */
export default function PlansView({ operator }: { operator: OperatorView }) {
  const [track, setTrack] = useState<TrackFile>();
  const [plans, setPlans] = useState<readonly Candidate[]>(FIRST);
  const [chosen, setChosen] = useState(2);
  const [isDrawing, setDrawing] = useState(false);
  const timed = useMemo(() => (track ? timedTrack(track.points) : []), [track]);
  const trials = useMemo(
    () =>
      timed.length < 2
        ? []
        : plans.map(({ id, plan }) => ({ id, plan, trial: tryPlan(timed, plan, 15_000) })),
    [timed, plans],
  );
  const shown = trials.find(({ id }) => id === chosen) ?? trials[0];
  const greatest = Math.max(1, ...trials.map(({ trial }) => trial.greatestErrorM));
  const change = (id: number, plan: BeaconPlan): void =>
    setPlans(plans.map((one) => (one.id === id ? { id, plan } : one)));
  const marks = useMemo(
    (): Mark[] =>
      shown?.trial.beacons.map(({ position }, i) => ({ id: String(i), position, kind: 'hit' })) ?? [],
    [shown],
  );
  const lines = useMemo(
    (): Line[] =>
      timed.length > 1
        ? [
            { points: thinnedOut(timed, MOST_DRAWN).map(({ position }) => position), isStrong: false },
            ...(shown
              ? [{ points: shown.trial.beacons.map(({ position }) => position), isStrong: true }]
              : []),
          ].filter(({ points }) => points.length > 1)
        : [],
    [timed, shown],
  );
  const centre = track?.points[0] ?? operator.position ?? { latitudeDeg: 0, longitudeDeg: 0 };
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <div className="flex min-w-0 flex-col gap-4">
        <p className="text-[19px] leading-snug font-[620]" role="status">
          {shown
            ? `${capital(planWords(shown.plan, operator.units))}: ${shown.trial.beacons.length} beacons in ${shown.trial.hours.toFixed(1)} h, off by ${Math.round(shown.trial.greatestErrorM)} m at most.`
            : 'Choose a track, and see what each plan makes of it.'}
        </p>
        <MarkedMap
          label="Map of the track and its beacons. The table below says the same in figures."
          operator={operator}
          centre={centre}
          marks={marks}
          lines={lines}
          drawn={
            isDrawing
              ? (points) => {
                  setDrawing(false);
                  setTrack({ name: 'drawn by hand', points });
                }
              : undefined
          }
        />
        {trials.map(({ id, plan, trial }) => (
          <div key={id}>
            <p className={`text-[13px] ${id === shown?.id ? 'font-[640]' : 'text-ink2'}`}>
              {PLAN_NAMES[plan.kind]}
            </p>
            <ErrorRibbon trial={trial} greatestM={greatest} />
          </div>
        ))}
        {trials.length > 0 && (
          <table className="w-full text-left text-[14px]" data-testid="plans">
            <thead className="text-[12.5px] text-ink3">
              <tr>
                {['Plan', 'Beacons', 'An hour', 'Greatest error', 'RMS error', 'Channel', 'Battery'].map(
                  (head) => (
                    <th key={head} scope="col" className="py-1 pr-3 font-[500]">
                      {head}
                    </th>
                  ),
                )}
              </tr>
            </thead>
            <tbody>
              {trials.map(({ id, plan, trial }) => (
                <tr key={id} className={`border-t border-line ${id === shown?.id ? 'bg-raise' : ''}`}>
                  <th scope="row" className="py-1.5 pr-3 text-left font-[500]">
                    <button
                      type="button"
                      aria-pressed={id === shown?.id}
                      onClick={() => setChosen(id)}
                      className="text-left underline-offset-4 hover:underline aria-pressed:font-[700] max-md:min-h-11"
                    >
                      {PLAN_NAMES[plan.kind]}
                    </button>
                  </th>
                  <Figures trial={trial} />
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
      <aside className="flex flex-col gap-4 lg:border-l lg:border-line lg:pl-6">
        <TrackChoice
          operator={operator}
          take={setTrack}
          draw={() => setDrawing(true)}
          isDrawing={isDrawing}
        />
        {track && (
          <p className="flex flex-wrap items-center gap-2 text-[13.5px]">
            <b>{track.name}</b> {track.points.length} points; save as
            <Button onClick={() => saveFile('track.gpx', 'application/gpx+xml', formatGpx(track))}>
              GPX
            </Button>
            <Button onClick={() => saveFile('track.geojson', 'application/geo+json', formatGeoJson(track))}>
              GeoJSON
            </Button>
            <Button
              onClick={() =>
                saveFile(
                  'track.kml',
                  'application/vnd.google-earth.kml+xml',
                  formatKml(track.name, [track], []),
                )
              }
            >
              KML
            </Button>
          </p>
        )}
        {shown && (
          <>
            <PlanFields plan={shown.plan} units={operator.units} set={(plan) => change(shown.id, plan)} />
            <FindFigures timed={timed} plan={shown.plan} take={(plan) => change(shown.id, plan)} />
            <div className="flex gap-2">
              <Button
                onClick={() => {
                  const id = Math.max(...plans.map((one) => one.id)) + 1;
                  setPlans([...plans, { id, plan: shown.plan }]);
                  setChosen(id);
                }}
              >
                Add another plan
              </Button>
              <Button
                disabled={plans.length < 2}
                onClick={() => setPlans(plans.filter(({ id }) => id !== shown.id))}
              >
                Take it out
              </Button>
            </div>
          </>
        )}
      </aside>
    </div>
  );
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** With the beacon that is saved, over the operator's own link, from his own radio. */
function Figures({ trial: { beacons, hours, perHour, greatestErrorM, rmsErrorM } }: { trial: TrackTrial }) {
  const saved = useLive((state) => state.beacon);
  const frame = useFrameOf(saved);
  const cost = useOwnCost();
  const airMs = frame === undefined || isMalformed(frame) ? USUAL_AIR_MS : cost.airMs(frame.raw);
  const cells = [
    String(beacons.length),
    perHour.toFixed(1),
    `${Math.round(greatestErrorM)} m`,
    `${Math.round(rmsErrorM)} m`,
    shareWords(airMs, perHour),
    `${cost.milliampHours(airMs, beacons.length).toFixed(1)} mAh in ${hours.toFixed(1)} h at ${cost.watts} W`,
  ];
  return cells.map((cell, i) => (
    <td key={i} className="py-1.5 pr-3 font-mono text-[13px]">
      {cell}
    </td>
  ));
}

/** From a file, from what was heard of a station, from one's own past, or by hand. */
function TrackChoice({
  operator,
  take,
  draw,
  isDrawing,
}: {
  operator: OperatorView;
  take: (track: TrackFile) => void;
  draw: () => void;
  isDrawing: boolean;
}) {
  const stations = useLive((state) => state.stations);
  const own = useLive((state) => state.ownStations);
  const { problem, isBusy, attempt } = useAttempt();
  const heard = [...stations.values()]
    .filter(({ kind, position }) => kind === 'station' && position)
    .map(({ name }) => name);
  const calls = [
    ...new Set([...own.map(({ call }) => call).filter((call) => stations.has(call)), ...heard.sort()]),
  ];
  const [words, setWords] = useState<string>();
  const fetchTrack = async (name: string): Promise<void> => {
    const sinceMs = Math.max(0, Math.round(Date.now() + useLive.getState().clockOffsetMs - PAST_MS));
    const [track] = await command<Track[]>(
      'GET',
      `/stations/tracks?sinceMs=${sinceMs}&name=${encodeURIComponent(name)}`,
    );
    if (!track) return setWords(`${name} was at one place only in the last ${PAST_MS / 3_600_000} h.`);
    setWords(undefined);
    take({
      name,
      points: track.points.map(([atMs, latitudeDeg, longitudeDeg]): TrackFix => ({
        atMs,
        latitudeDeg,
        longitudeDeg,
      })),
    });
  };
  return (
    <div className="flex flex-col items-start gap-3">
      <SelectField
        label="The track of"
        hint={`heard in the last ${PAST_MS / 3_600_000} h`}
        value=""
        disabled={isBusy || calls.length === 0}
        onChange={({ target }) => void attempt(() => fetchTrack(target.value))}
      >
        <option value="">{calls.length === 0 ? 'nobody has moved' : 'choose a station'}</option>
        {calls.map((call) => (
          <option key={call}>{call}</option>
        ))}
      </SelectField>
      <TrackFileButton take={(name, points) => take({ name, points })} />
      <Button disabled={isDrawing || !operator} onClick={draw}>
        {isDrawing ? 'Press along the way; twice ends it' : 'Draw it on the map'}
      </Button>
      {words !== undefined && (
        <p role="status" className="text-[13.5px] text-look">
          {words}
        </p>
      )}
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}

/** Other figures for the same plan, by an error that is not to be passed, or by a number of beacons. */
function FindFigures({
  timed,
  plan,
  take,
}: {
  timed: ReturnType<typeof timedTrack>;
  plan: BeaconPlan;
  take: (plan: BeaconPlan) => void;
}) {
  const [by, setBy] = useState<'errorM' | 'perHour'>('errorM');
  const [value, setValue] = useState<number | undefined>(300);
  const [words, setWords] = useState<string>();
  const find = (): void => {
    const found = findFigures(
      timed,
      plan,
      by === 'errorM' ? { errorM: value as number } : { perHour: value as number },
      15_000,
    );
    setWords(
      found
        ? `Found: ${found.trial.beacons.length} beacons, ${Math.round(found.trial.greatestErrorM)} m at most.`
        : 'No figures of this plan keep that on this track.',
    );
    if (found) take(found.plan);
  };
  return (
    <div className="flex flex-col gap-2 border-t border-line pt-3">
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          label="Find figures"
          value={by}
          onChange={({ target }) => setBy(target.value as typeof by)}
        >
          <option value="errorM">error at most, m</option>
          <option value="perHour">beacons an hour at most</option>
        </SelectField>
        <NumberField label={by === 'errorM' ? 'Metres' : 'Beacons'} value={value} set={setValue} />
      </div>
      <Button disabled={!(Number(value) > 0)} onClick={find} className="self-start">
        Find them
      </Button>
      {words !== undefined && (
        <p role="status" className="text-[13.5px] text-ink2">
          {words}
        </p>
      )}
    </div>
  );
}
