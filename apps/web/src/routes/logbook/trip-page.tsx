import { lazy, Suspense, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { sumOf, tripMarkdown } from '@mistpeak/core/logbook/trip';
import type { Position } from '@mistpeak/core/geo/position';
import type { TripRecord } from '@mistpeak/contract/logbook';
import type { OperatorView } from '@mistpeak/contract/operator';
import { command } from '../../api';
import { useAsked } from '../../live/asked';
import { useDirectory } from '../../live/directory';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatDay } from '../../pieces/age';
import { Button } from '../../pieces/button';
import type { Line, Mark } from '../../pieces/map/marked-map';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { saveFile } from '../../pieces/save-file';
import { Table } from '../../pieces/table';
import { Days } from './entry-row';
import { TripForm } from './trips-view';

const MarkedMap = lazy(() => import('../../pieces/map/marked-map'));
const MINUTE_MS = 60_000;

/** One trip: where, who was reached, what worked and what did not, what to do better. */
export function TripPage({ id, operator }: { id: string; operator: OperatorView }) {
  const nowMs = useNow(MINUTE_MS);
  const known = useLive((state) => state.trips.find((trip) => trip.id === id));
  const { value: record, problem } = useAsked<TripRecord>(
    `/logbook/trips/${id}`,
    `${known?.version ?? 0} ${Math.floor(nowMs / MINUTE_MS)}`,
  );
  const navigate = useNavigate();
  const [isOpen, setOpen] = useState(false);
  if (problem) return <ProblemNote problem={problem} />;
  if (!record) return <p className="text-ink2">Opening it …</p>;
  const trip = known ?? record.trip;
  const sum = sumOf(trip, record.entries, record.calls, nowMs);
  const answered = sum.reached.filter(({ answers }) => answers > 0);
  const isRunning = trip.toMs === undefined;
  const end = (): Promise<unknown> => {
    const { id: _, ...settings } = trip;
    return command('PUT', `/logbook/trips/${id}`, { ...settings, toMs: Math.floor(nowMs) });
  };
  return (
    <article className="flex max-w-[70rem] flex-col gap-4">
      <header>
        <h2 className="text-[1.5rem]">{trip.name}</h2>
        <p className="text-ink2">
          <span className="font-mono text-[14px]">
            {formatDay(trip.fromMs)} – {isRunning ? 'now' : formatDay(trip.toMs ?? 0)} UTC
          </span>
          {trip.place && `, ${trip.place}`}
        </p>
        <p role="status" className="mt-2 text-[19px] leading-snug font-[620]">
          {hoursInWords(sum.hours)}: {answered.length} of {sum.reached.length} that were called answered,{' '}
          {sum.worked.length} things worked and {sum.failed.length} did not; {record.heard.stations} stations
          with a place were heard.
        </p>
      </header>
      <div className="flex flex-wrap gap-2 print:hidden">
        <OperatorOnly>
          {isRunning && (
            <Button kind="main" onClick={() => void end().catch(() => undefined)}>
              End the trip now
            </Button>
          )}
          <Button onClick={() => setOpen(!isOpen)} aria-expanded={isOpen}>
            Change …
          </Button>
        </OperatorOnly>
        <Button onClick={() => window.print()}>Print</Button>
        <Button
          onClick={() => saveFile(`${fileName(trip.name)}.md`, 'text/markdown', tripMarkdown(trip, sum))}
        >
          Save as Markdown
        </Button>
        <OperatorOnly>
          <Button
            kind="stop"
            onClick={() =>
              void command('DELETE', `/logbook/trips/${id}`).then(
                () => navigate('/logbook/trips'),
                () => undefined,
              )
            }
          >
            Remove it
          </Button>
        </OperatorOnly>
      </div>
      {isOpen && <TripForm trip={trip} close={() => setOpen(false)} />}
      {trip.better && (
        <section aria-label="To do better" className="border-l-[4px] border-look bg-raise px-4 py-2">
          <h3 className="text-[15px] font-[640]">To do better</h3>
          <p className="whitespace-pre-line">{trip.better}</p>
        </section>
      )}
      <div className="grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="min-w-0">
          {sum.reached.length > 0 && (
            <>
              <h3 className="text-[15px] font-[640]">Who was called</h3>
              <Table columns={['Call', 'Answered', 'Called']}>
                {sum.reached.map(({ call, answers, tries }) => (
                  <tr key={call} className="border-t border-line">
                    <th scope="row" className="text-left font-mono font-[620]">
                      {call}
                    </th>
                    <td className={answers > 0 ? 'text-proved' : 'text-look'}>
                      {answers > 0 ? answers : 'silent'}
                    </td>
                    <td className="font-mono">{tries}</td>
                  </tr>
                ))}
              </Table>
            </>
          )}
          <Days entries={record.entries.toReversed()} />
          {record.entries.length === 0 && <p className="text-ink2">Nothing is written down of that time.</p>}
        </div>
        <TripMap record={record} operator={operator} />
      </div>
    </article>
  );
}

function TripMap({ record, operator }: { record: TripRecord; operator: OperatorView }) {
  const directory = useDirectory();
  const { marks, lines, centre } = useMemo(() => {
    const placeOf = new Map(
      (directory?.facilities ?? []).flatMap(({ call, position }) =>
        position ? [[call, position] as const] : [],
      ),
    );
    const marks: Mark[] = record.places.map(({ name, position }) => ({
      id: name,
      label: name,
      position,
      kind: 'me',
    }));
    const lines: Line[] = [];
    const answered = new Set(record.calls.filter((one) => one.answered).map(({ call }) => call));
    for (const call of new Set(record.calls.map((one) => one.call))) {
      const position = placeOf.get(call);
      if (!position) continue;
      marks.push({ id: call, label: call, position, kind: answered.has(call) ? 'hit' : 'miss' });
      const from = record.calls.find((one) => one.call === call && one.from)?.from;
      if (from) lines.push({ points: [from, position], isStrong: answered.has(call) });
    }
    return { marks, lines, centre: marks[0]?.position ?? operator.position };
  }, [record, directory, operator.position]);
  if (!centre || marks.length === 0) return null;
  return (
    <figure className="print:hidden">
      <Suspense fallback={<p className="text-ink2">Drawing the map …</p>}>
        <MarkedMap
          label="Map of the trip. Who was called stands in the table beside it."
          operator={operator}
          centre={centre satisfies Position}
          marks={marks}
          lines={lines}
        />
      </Suspense>
      <figcaption className="mt-1 text-[13px] text-ink3">
        Full: places of the trip. Green: answered. Hollow: silent.
      </figcaption>
    </figure>
  );
}

const hoursInWords = (hours: number): string =>
  hours < 48 ? `${hours < 10 ? hours.toFixed(1) : Math.round(hours)} h` : `${Math.round(hours / 24)} days`;

const fileName = (name: string): string =>
  name
    .trim()
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-') || 'trip';
