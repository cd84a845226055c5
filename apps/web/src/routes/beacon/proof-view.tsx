import { useEffect, useMemo, useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex } from '@mistpeak/core/bits/octets';
import {
  nextToTry,
  placeOf,
  rateOf,
  yieldsBy,
  type SentBeacon,
  type Yield,
} from '@mistpeak/core/beacon/proof';
import { formatPlace, parsePlace } from '@mistpeak/core/geo/place';
import { viewFrame } from '@mistpeak/core/stations/view';
import { formatDistance } from '@mistpeak/core/units/units';
import type { TransmissionView } from '@mistpeak/contract/beacon';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { PlaceLabelView, PlaceYield } from '@mistpeak/contract/whereabouts';
import { command } from '../../api';
import { keepAsking } from '../../live/keep-asking';
import { useAttempt } from '../../live/attempt';
import { useLive } from '../../live/store';
import { formatSeconds } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import MarkedMap, { type Mark } from '../../pieces/map/marked-map';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';

const DAYS = [1, 7, 30, 365];

/** Each own beacon and what became of it: by place, by path, by hour; what to try next. */
export default function ProofView({ operator }: { operator: OperatorView }) {
  const [days, setDays] = useState(7);
  const beacons = useSent(days);
  const places = useLive((state) => state.places);
  const labelled = useMemo(() => places.flatMap(labelOf), [places]);
  const byPlace = yieldsBy(beacons, ({ position }) => placeOf(position, labelled));
  const byPath = yieldsBy(beacons, ({ path }) => path);
  const byHour = yieldsBy(
    beacons,
    ({ atMs }) => `${String(new Date(atMs).getUTCHours()).padStart(2, '0')} UTC`,
  ).sort((a, b) => (a.key < b.key ? -1 : 1));
  const [all] = yieldsBy(beacons, () => 'all');
  const marks = useMemo(() => beacons.flatMap(markOf), [beacons]);
  const next = nextToTry(byPlace, byPath);
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[minmax(0,1fr)_23rem]">
      <div className="flex min-w-0 flex-col gap-4">
        <div className="flex flex-wrap items-end gap-4">
          <p className="mr-auto text-[19px] leading-snug font-[620]" role="status" data-testid="proved">
            {all
              ? `Of ${all.repeated.trials} beacons ${all.repeated.hits} were repeated${all.by[0] ? `, most by ${all.by[0].call}` : ''}.`
              : 'No beacon has left from here in that time.'}
          </p>
          <div className="w-36">
            <SelectField
              label="Of the last"
              value={days}
              onChange={({ target }) => setDays(Number(target.value))}
            >
              {DAYS.map((one) => (
                <option key={one} value={one}>
                  {one === 1 ? 'day' : `${one} days`}
                </option>
              ))}
            </SelectField>
          </div>
        </div>
        {next.length > 0 && (
          <ul className="flex max-w-[46rem] flex-col gap-1.5 text-[14.5px]" aria-label="What to try next">
            {next.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        )}
        <MarkedMap
          label="Map of the beacons sent: filled where they were repeated. The tables say the same."
          operator={operator}
          centre={beacons[0]?.position ?? operator.position ?? { latitudeDeg: 0, longitudeDeg: 0 }}
          marks={marks}
        />
        <Yields title="By place" yields={byPlace} none="No beacon left from a place with a name." />
        <Yields title="By path" yields={byPath} none="" />
        <Yields title="By hour" yields={byHour} none="" />
      </div>
      <Places operator={operator} places={places} here={beacons[0]?.position ?? operator.position} />
    </div>
  );
}

/** Read anew when something more was sent or heard back. */
function useSent(days: number): readonly SentBeacon[] {
  const [sent, setSent] = useState<readonly TransmissionView[]>([]);
  const transmissions = useLive((state) => state.transmissions);
  const signs = transmissions
    .map(({ id, echoes, gates, state }) => `${id}${echoes.length}${gates.length}${state}`)
    .join();
  useEffect(() => {
    // That the server is away is said at the top of the page.
    return keepAsking(`/beacon/proof?days=${days}`, setSent);
  }, [days, signs]);
  return useMemo(() => sent.flatMap(beaconOf), [sent]);
}

function beaconOf({ rawHex, queuedAtMs, handedAtMs, echoes, gates }: TransmissionView): SentBeacon[] {
  const raw = fromHex(rawHex);
  const view = isMalformed(raw) ? raw : viewFrame(raw);
  if (isMalformed(view)) return [];
  const { frame, report } = view;
  const { latitudeDeg, longitudeDeg } = report ?? {};
  return [
    {
      atMs: handedAtMs ?? queuedAtMs,
      path: frame.path.map(({ call }) => call).join(','),
      echoes,
      gates,
      ...(latitudeDeg !== undefined && longitudeDeg !== undefined
        ? { position: { latitudeDeg, longitudeDeg } }
        : {}),
    },
  ];
}

const markOf = ({ position, echoes, atMs }: SentBeacon): Mark[] =>
  position
    ? [{ id: String(atMs), position, kind: echoes.some(({ by }) => by !== null) ? 'hit' : 'miss' }]
    : [];

function labelOf({ name, place, radiusM }: PlaceLabelView) {
  const position = parsePlace(place);
  return isMalformed(position) ? [] : [{ name, position, radiusM }];
}

function Yields({ title, yields, none }: { title: string; yields: readonly Yield[]; none: string }) {
  if (yields.length === 0) return none === '' ? null : <p className="text-[14px] text-ink2">{none}</p>;
  return (
    <section aria-label={title} className="border-t-[1.5px] border-ink pt-2">
      <h2>{title}</h2>
      <Table
        stacks
        columns={['What', 'Repeated', 'Between', 'By whom', 'After', 'At a gate']}
        className="w-full text-[14px]"
      >
        {yields.map(({ key, repeated: { hits, trials, low, high }, by, medianAfterMs, atGate }) => (
          <tr key={key} className="border-t border-line">
            <th scope="row" className="py-1 pr-3 text-left font-mono font-[560]">
              {key === '' ? 'no path' : key}
            </th>
            <td className="pr-3 font-mono">
              {hits} of {trials}
            </td>
            <td className="pr-3 font-mono text-ink2">
              {Math.round(low * 100)}–{Math.round(high * 100)} %
            </td>
            <td className="pr-3 font-mono text-[13px]">
              {by
                .slice(0, 3)
                .map(({ call, count }) => `${call} ${count}×`)
                .join(', ') || '–'}
            </td>
            <td className="pr-3 font-mono">
              {medianAfterMs === undefined ? '–' : formatSeconds(medianAfterMs)}
            </td>
            <td className="font-mono">{atGate === 0 ? '–' : `${atGate} of ${trials}`}</td>
          </tr>
        ))}
      </Table>
    </section>
  );
}

/** Places by the operator's own names: what was heard there, and how far away. */
function Places({
  operator,
  places,
  here,
}: {
  operator: OperatorView;
  places: readonly PlaceLabelView[];
  here: SentBeacon['position'];
}) {
  const { problem, isBusy, attempt } = useAttempt();
  const [yields, setYields] = useState<readonly PlaceYield[]>([]);
  const [name, setName] = useState('');
  const [place, setPlace] = useState(here ? formatPlace(here) : '');
  const [radiusM, setRadius] = useState<number | undefined>(300);
  const signs = places.map(({ id, isHere }) => `${id}${isHere}`).join();
  useEffect(() => {
    return keepAsking('/places/yields', setYields);
  }, [signs]);
  const fields = problem?.fields ?? {};
  return (
    <aside aria-label="My places" className="flex flex-col gap-3 lg:border-l lg:border-line lg:pl-6">
      <h2>My places</h2>
      {places.length === 0 && (
        <p className="text-[14px] text-ink2">
          Give a place a name, and each keeps its own account: what is repeated from there, and what is heard
          there.
        </p>
      )}
      <ul className="flex flex-col gap-3">
        {places.map((one) => (
          <PlaceRow
            key={one.id}
            place={one}
            result={yields.find(({ id }) => id === one.id)}
            operator={operator}
            run={(task) => void attempt(task)}
            isBusy={isBusy}
          />
        ))}
      </ul>
      <OperatorOnly>
        <form
          noValidate
          className="flex flex-col gap-2 border-t border-line pt-3"
          onSubmit={(event) => {
            event.preventDefault();
            void attempt(async () => {
              await command('POST', '/places', { name, place, radiusM });
              setName('');
            });
          }}
        >
          <TextField
            label="Name of a place"
            value={name}
            error={fields.name}
            onChange={({ target }) => setName(target.value)}
          />
          <TextField
            label="Where"
            mono
            value={place}
            error={fields.place}
            onChange={({ target }) => setPlace(target.value)}
          />
          <NumberField label="Out to, m" value={radiusM} error={fields.radiusM} set={setRadius} />
          {problem && !problem.fields && <ProblemNote problem={problem} />}
          <Button type="submit" disabled={isBusy} className="self-start">
            Keep this place
          </Button>
        </form>
      </OperatorOnly>
    </aside>
  );
}

function PlaceRow({
  place,
  result,
  operator,
  run,
  isBusy,
}: {
  place: PlaceLabelView;
  result: PlaceYield | undefined;
  operator: OperatorView;
  run: (task: () => Promise<unknown>) => void;
  isBusy: boolean;
}) {
  const rate = result && result.hours > 0 ? rateOf(result.packets, result.hours) : undefined;
  return (
    <li className="flex flex-col gap-1 text-[14px]">
      <span className="flex flex-wrap items-center gap-2">
        <b>{place.name}</b>
        {place.isHere && <span className="text-proved">I am here</span>}
        <OperatorOnly>
          <Button
            className="ml-auto"
            disabled={isBusy}
            onClick={() =>
              run(() => command('POST', `/places/${place.id}/${place.isHere ? 'leave' : 'visits'}`))
            }
          >
            {place.isHere ? 'I am leaving' : 'I am here now'}
          </Button>
          <Button
            kind="stop"
            disabled={isBusy}
            aria-label={`Remove the place ${place.name}`}
            onClick={() => run(() => command('DELETE', `/places/${place.id}`))}
          >
            Remove
          </Button>
        </OperatorOnly>
      </span>
      <span className="text-[13px] text-ink2">
        {rate && result
          ? `${result.packets} packets of ${result.stations} stations in ${result.hours.toFixed(1)} h: ${rate.perHour.toFixed(1)} an hour (${rate.low.toFixed(1)} to ${rate.high.toFixed(1)})${result.farthest ? `; farthest direct ${result.farthest.call}, ${formatDistance(result.farthest.km, operator.units)}` : ''}`
          : 'Say when you are there: what is heard then is counted for it.'}
      </span>
    </li>
  );
}
