import { useMemo, useState } from 'react';
import { formatDistance } from '@mistpeak/core/units/units';
import { windName } from '@mistpeak/core/geo/position';
import type { LabStation } from '@mistpeak/core/path-lab/lab';
import { FREE_RADII, type Margin } from '@mistpeak/core/propagation/margin';
import { PACKET_THRESHOLD_DBM } from '@mistpeak/core/propagation/reach';
import type { OperatorView } from '@mistpeak/contract/operator';
import { usePathWork } from '../../live/path-work';
import { Button } from '../../pieces/button';
import { NumberField, SelectField } from '../../pieces/field';
import { Table } from '../../pieces/table';
import { WorkNote } from '../../pieces/work-note';
import { JOURNAL_HOURS, useComposition, useHeardNetwork } from './lab-now';
import { readSet, useOwnSet } from './own-set';
import { ProfileDrawing } from './profile-drawing';
import MarkedMap, { type Cell, type Mark } from '../../pieces/map/marked-map';
import type { PathJobs } from '../../workers/path-messages';
import { SetFields } from './set-fields';

/** At the body (common practice, no source). */
const HANDHELD = { heightM: 1.5, powerW: 5, gainDbi: -8, thresholdDbm: PACKET_THRESHOLD_DBM };
const BEARINGS = 120;
const STEPS = 100;
const SPOTS = { radiusKm: 2, stepKm: 0.15, wanted: 5 };

/** Who hears me from here, over the ground between, and where nearby more would. */
export default function ReachView({ operator }: { operator: OperatorView }) {
  const draft = useOwnSet(operator);
  const ready = readSet(draft.values);
  const [radiusKm, setRadius] = useState<number | undefined>(25);
  const [other, setOther] = useState('');
  const [round, setRound] = useState('');
  const { network } = useHeardNetwork(JOURNAL_HOURS);
  const frequencyMHz = 'wrong' in ready ? operator.channelMHz : ready.frequencyMHz;
  const composition = useComposition(network, frequencyMHz);
  const [reach, map, spots] = [usePathWork('reach'), usePathWork('map'), usePathWork('spots')];
  const stations = composition?.lab.stations ?? [];
  const repeaters = stations.filter(({ role }) => role !== 'station');
  const listed = [...repeaters, ...stations.filter(({ role }) => role === 'station')];
  const there = listed.find(({ call }) => call === other) ?? listed[0];
  const isReady = !('wrong' in ready);
  const begin = (to: LabStation | undefined): void => {
    if (isReady && to) reach.begin({ here: ready.end, there: to.end, frequencyMHz });
  };
  const here = isReady ? ready.end.position : undefined;
  const calls = repeaters.map(({ call }) => call).join();
  const found = spots.answer?.spots;
  const places = useMemo(
    () => [
      ...(here ? [{ id: 'me', label: 'me', position: here, kind: 'me' } as Mark] : []),
      ...repeaters.map(({ call, end }): Mark => ({
        id: call,
        label: call,
        position: end.position,
        kind: 'station',
      })),
      ...(found?.map(({ position }, i): Mark => ({
        id: `spot ${i + 1}`,
        label: `spot ${i + 1}`,
        position,
        kind: 'spot',
      })) ?? []),
    ],
    // What is drawn changes with these alone.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
    [draft.values.place, calls, found],
  );
  const cells = useCells(map.answer);
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <div className="flex min-w-0 flex-col gap-4">
        <p className="text-[19px] leading-snug font-[620]" role="status">
          {reach.answer
            ? verdictOf(reach.answer, there?.call ?? '')
            : 'Choose a station, and see over which ground it lies.'}
        </p>
        {reach.answer && !reach.answer.isGroundKnown && (
          <p className="text-[14px] text-look">
            No elevation is known for this way: it is a smooth earth here.
          </p>
        )}
        <WorkNote work={reach} words="Cutting the ground" />
        {reach.answer && (
          <ProfileDrawing reach={reach.answer} frequencyMHz={frequencyMHz} ends={['me', there?.call ?? '']} />
        )}
        {reach.answer && <Figures reach={reach.answer} operator={operator} call={there?.call ?? ''} />}
        <section aria-label="Reach map" className="flex flex-col gap-2 border-t-[1.5px] border-ink pt-2.5">
          <div className="flex flex-wrap items-end gap-3">
            <h2 className="mr-auto">Who carries a handheld and is heard</h2>
            <div className="w-44">
              <SelectField label="Round" value={round} onChange={({ target }) => setRound(target.value)}>
                <option value="">me</option>
                {listed.map(({ call }) => (
                  <option key={call}>{call}</option>
                ))}
              </SelectField>
            </div>
            <div className="w-32">
              <NumberField label="Out to, km" value={radiusKm} set={setRadius} />
            </div>
            <Button
              disabled={
                !isReady || map.share !== undefined || !(Number(radiusKm) >= 1 && Number(radiusKm) <= 100)
              }
              onClick={() =>
                isReady &&
                map.begin({
                  centre: listed.find(({ call }) => call === round)?.end ?? ready.end,
                  mobile: HANDHELD,
                  frequencyMHz,
                  radiusKm: radiusKm as number,
                  bearings: BEARINGS,
                  stepKm: (radiusKm as number) / STEPS,
                })
              }
            >
              Draw its reach
            </Button>
          </div>
          <WorkNote work={map} words="Going round" />
          {isReady && (
            <MarkedMap
              label="Map of the reach. The table beside it names the stations in words."
              operator={operator}
              centre={ready.end.position}
              marks={places}
              cells={cells}
              choose={(name) => {
                const station = listed.find(({ call }) => call === name);
                if (!station) return;
                setOther(name);
                begin(station);
              }}
            />
          )}
          <p className="text-[13px] text-ink3">
            Strong: both ways with more than the spread to spare. Faint: a matter of luck. One standard
            deviation is 6 dB in the clear and 9 dB behind ground (common practice).
          </p>
        </section>
        <section
          aria-label="Where nearby"
          className="flex flex-col items-start gap-2 border-t-[1.5px] border-ink pt-2.5"
        >
          <h2>Where within 2 km would I be heard?</h2>
          <WorkNote work={spots} words="Looking round" />
          <Spots answer={spots.answer} repeaters={repeaters} operator={operator} />
          <Button
            disabled={!isReady || repeaters.length === 0 || spots.share !== undefined}
            onClick={() =>
              isReady &&
              spots.begin({ here: ready.end, ears: repeaters.map(({ end }) => end), frequencyMHz, ...SPOTS })
            }
          >
            Look for better places
          </Button>
        </section>
      </div>
      <aside className="flex flex-col gap-3 lg:border-l lg:border-line lg:pl-6">
        <SetFields draft={draft} />
        <SelectField label="To" value={there?.call ?? ''} onChange={({ target }) => setOther(target.value)}>
          {listed.map(({ call, role }) => (
            <option key={call} value={call}>
              {call} ({role})
            </option>
          ))}
        </SelectField>
        <Button
          kind="main"
          disabled={!isReady || !there || reach.share !== undefined}
          onClick={() => begin(there)}
        >
          Reckon the way there
        </Button>
      </aside>
    </div>
  );
}

function verdictOf({ there, back }: { there: Margin; back: Margin }, call: string): string {
  const word = ({ marginDb, spreadDb }: Margin): string =>
    marginDb > spreadDb ? 'will' : marginDb > 0 ? 'should' : marginDb > -spreadDb ? 'may' : 'will hardly';
  const [out, home] = [word(there), word(back)];
  const margin = `${there.marginDb >= 0 ? '+' : '−'}${Math.abs(there.marginDb).toFixed(0)} dB, give or take ${there.spreadDb}`;
  return out === home
    ? `${call} ${out} hear me, and I it: ${margin}.`
    : `${call} ${out} hear me (${margin}), and I ${home} hear it.`;
}

function Figures({
  reach: { there, back, clearance },
  operator,
  call,
}: {
  reach: { there: Margin; back: Margin; clearance: { radii: number; km: number } };
  operator: OperatorView;
  call: string;
}) {
  const rows: readonly [string, string][] = [
    ['free space', `${there.freeSpaceDb.toFixed(1)} dB`],
    ['ground between', `${there.groundDb.toFixed(1)} dB`],
    [
      'first Fresnel ellipsoid',
      Number.isFinite(clearance.radii)
        ? `${clearance.radii >= FREE_RADII ? 'free' : clearance.radii < 0 ? 'blocked' : 'touched'}: ${clearance.radii.toFixed(2)} radii at ${formatDistance(clearance.km, operator.units)}`
        : 'free',
    ],
    [`${call} hears`, `${there.receivedDbm.toFixed(0)} dBm, chance ${Math.round(there.chance * 100)} %`],
    ['I hear', `${back.receivedDbm.toFixed(0)} dBm, chance ${Math.round(back.chance * 100)} %`],
  ];
  return (
    <dl className="grid max-w-[40rem] grid-cols-[auto_1fr] gap-x-5 gap-y-0.5 text-[14px]" data-testid="reach">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-ink2">{name}</dt>
          <dd className="font-mono">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

function Spots({
  answer,
  repeaters,
  operator,
}: {
  answer: ReturnType<typeof usePathWork<'spots'>>['answer'];
  repeaters: readonly LabStation[];
  operator: OperatorView;
}) {
  if (!answer)
    return (
      <p className="text-[14px] text-ink2">
        From the elevation: the places nearby that a digipeater or gateway hears better than this one.
      </p>
    );
  if (answer.spots.length === 0)
    return (
      <p role="status" className="text-[14px]">
        {answer.isGroundKnown
          ? 'Nowhere within 2 km is better than here.'
          : 'No elevation is known here: everywhere is alike.'}
      </p>
    );
  return (
    <Table
      stacks
      columns={['Spot', 'Go', 'Ground', 'Then hears me', 'Gain']}
      className="w-full max-w-[40rem] text-[14px]"
    >
      {answer.spots.map(({ distanceKm, bearingDeg, groundM, ear, marginDb, gainDb }, i) => (
        <tr key={i} className="border-t border-line">
          <td className="py-1 pr-3">spot {i + 1}</td>
          <td className="pr-3 font-mono">
            {formatDistance(distanceKm, operator.units)} {windName(bearingDeg)} ({Math.round(bearingDeg)}°)
          </td>
          <td className="pr-3 font-mono">{Math.round(groundM)} m</td>
          <td className="pr-3 font-mono">
            {repeaters[ear]?.call} {marginDb >= 0 ? '+' : '−'}
            {Math.abs(marginDb).toFixed(0)} dB
          </td>
          <td className="font-mono">+{gainDb.toFixed(0)} dB</td>
        </tr>
      ))}
    </Table>
  );
}

function useCells(answer: PathJobs['map']['answer'] | undefined): readonly Cell[] {
  return useMemo(() => (answer ? cellsOf(answer.rays) : []), [answer]);
}

/** The step of a margin that is told apart, dB: about the spread of the reckoning. */
const SURE_DB = 9;

/** Strong where the margin is over the spread, faint where it is a matter of luck. */
function cellsOf(rays: PathJobs['map']['answer']['rays']): Cell[] {
  return rays.flatMap(({ marginsDb, places }, i) => {
    const next = rays[(i + 1) % rays.length] as (typeof rays)[number];
    const found: Cell[] = [];
    for (let k = 0; k + 1 < marginsDb.length; k++) {
      const marginDb = marginsDb[k] as number;
      if (marginDb < -SURE_DB / 2) continue;
      const corners = [places[k], places[k + 1], next.places[k + 1], next.places[k]];
      found.push({ corners: corners.filter((corner) => corner !== undefined), isSure: marginDb >= SURE_DB });
    }
    return found;
  });
}
