import { Check as CheckIcon, Circle, TriangleAlert } from 'lucide-react';
import { useMemo } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { checksOf, type Check, type Seen } from '@mistpeak/core/departure/checklist';
import { cutInWords } from '@mistpeak/core/departure/power-cut';
import { listAges, USUAL_OCTETS_PER_SECOND } from '@mistpeak/core/gateways/list-age';
import { tilesBetween } from '@mistpeak/core/geo/terrain';
import { parsePlace } from '@mistpeak/core/geo/place';
import type { Position } from '@mistpeak/core/geo/position';
import type { MapView } from '@mistpeak/contract/maps';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDirectory } from '../../live/directory';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';

const OPEN_PHASES = new Set(['silent', 'hearing', 'transmitting']);
const HOUR_MS = 3_600_000;

/** What must I see to before I leave? What can be seen ticks itself. */
export function LeavePart() {
  const { checks, done, nowMs } = useChecks();
  const isSettled = ({ id, state }: Check): boolean => state === 'seen' || done[id] !== undefined;
  const left = checks.filter((check) => !isSettled(check));
  const { problem, attempt } = useAttempt();
  return (
    <div className="grid gap-x-9 gap-y-6 xl:grid-cols-[minmax(0,1fr)_24rem]">
      <div className="flex min-w-0 flex-col gap-4">
        <p role="status" className="max-w-[46rem] text-[19px] leading-snug font-[620]">
          {left.length === 0
            ? 'All is seen to.'
            : `${left.length} of ${checks.length} are left. First: ${left[0]?.what}.`}
        </p>
        <ul aria-label="Before I leave">
          {checks.map((check) => (
            <Row key={check.id} check={check} doneAtMs={done[check.id]} nowMs={nowMs} attempt={attempt} />
          ))}
        </ul>
        {problem && <ProblemNote problem={problem} />}
        <div className="flex flex-wrap gap-2 print:hidden">
          <Button onClick={() => window.print()}>Print the list</Button>
          <OperatorOnly>
            <Button
              disabled={Object.keys(done).length === 0}
              onClick={() => void attempt(() => command('DELETE', '/departure/ticks'))}
            >
              Begin the list anew
            </Button>
          </OperatorOnly>
        </div>
      </div>
      <PowerCutTest />
    </div>
  );
}

function useChecks(): { checks: Check[]; done: Readonly<Record<string, number>>; nowMs: number } {
  const nowMs = useNow(30_000);
  const directory = useDirectory();
  const departure = useLive((state) => state.departure);
  const chain = useLive((state) => state.chains.find(({ onBench }) => onBench));
  const links = useLive((state) => state.links);
  const tiles = useLive((state) => state.tiles);
  const maps = useLive((state) => state.maps);
  const trips = useLive((state) => state.trips);
  const readings = useLive((state) => state.field.readings);
  const operator = useLive((state) => state.operator);
  const waiting = useLive((state) => state.mail.waiting);
  return useMemo(() => {
    const trip = trips.find(({ toMs }) => toMs === undefined);
    const parsed = trip && trip.place !== '' ? parsePlace(trip.place) : undefined;
    const place = parsed && !isMalformed(parsed) ? parsed : (operator?.position ?? undefined);
    const lists = listAges(directory?.facilities ?? [], { nowMs, octetsPerSecond: USUAL_OCTETS_PER_SECOND });
    const full = readings.findLast(({ kind }) => kind === 'full');
    const seen: Seen = {
      nowMs,
      gateways: directory?.facilities.length ?? 0,
      startsByItself: departure.startsByItself,
      links: links.map(({ settings, phase }) => ({ name: settings.name, isOpen: OPEN_PHASES.has(phase) })),
      ...(place
        ? {
            mapCovers: maps.some((map) => isWithin(place, map)),
            elevationCovers: tilesBetween([place], 0).every((name) =>
              tiles.some((tile) => tile.name === name),
            ),
          }
        : {}),
      ...(lists.length === 0 ? {} : { listDays: Math.max(...lists.map(({ days }) => days)) }),
      ...(departure.freeGb === undefined ? {} : { freeGb: departure.freeGb }),
      ...(departure.cut ? { cut: departure.cut } : {}),
      ...(full ? { chargedHoursAgo: (nowMs - full.atMs) / HOUR_MS } : {}),
    };
    const wantsMail = waiting > 0 || chain?.purpose === 'mail';
    return { checks: checksOf(chain?.parts ?? [], wantsMail, seen), done: departure.done, nowMs };
  }, [nowMs, directory, departure, chain, links, tiles, maps, trips, readings, operator, waiting]);
}

const isWithin = (
  { latitudeDeg, longitudeDeg }: Position,
  { west, south, east, north }: Pick<MapView, 'west' | 'south' | 'east' | 'north'>,
): boolean => latitudeDeg >= south && latitudeDeg <= north && longitudeDeg >= west && longitudeDeg <= east;

function Row({
  check: { id, what, why, state, evidence },
  doneAtMs,
  nowMs,
  attempt,
}: {
  check: Check;
  doneAtMs: number | undefined;
  nowMs: number;
  attempt: (task: () => Promise<unknown>) => Promise<boolean>;
}) {
  const isDone = state === 'seen' || doneAtMs !== undefined;
  const Mark = isDone ? CheckIcon : state === 'missing' ? TriangleAlert : Circle;
  const ink = isDone ? 'text-proved' : state === 'missing' ? 'text-look' : 'text-ink3';
  return (
    <li className="grid grid-cols-[1.6rem_minmax(0,1fr)_auto] items-center gap-x-2 border-t border-line py-2 print:break-inside-avoid">
      <Mark className={`size-4.5 ${ink}`} aria-hidden />
      <div className="min-w-0">
        <p className="text-[15px]">
          <b className="font-[620]">{what}</b>
          {evidence && <span className={`ml-2 text-[14px] ${ink}`}>{evidence}</span>}
          {state !== 'seen' && doneAtMs !== undefined && (
            <span className="ml-2 text-[14px] text-proved">done {formatAge(nowMs - doneAtMs)} ago</span>
          )}
        </p>
        <p className="text-[13.5px] text-ink3">{why}</p>
      </div>
      {state !== 'seen' && (
        <OperatorOnly>
          <label className="flex min-h-9 items-center gap-2 text-[14px] max-md:min-h-11 print:hidden">
            <input
              type="checkbox"
              className="size-4.5"
              aria-label={`Done: ${what}`}
              checked={doneAtMs !== undefined}
              onChange={({ target }) =>
                void attempt(() => command('PUT', '/departure/ticks', { id, isDone: target.checked }))
              }
            />
            done
          </label>
        </OperatorOnly>
      )}
    </li>
  );
}

function PowerCutTest() {
  const { asked, cut } = useLive((state) => state.departure);
  const nowMs = useNow(30_000);
  const { problem, isBusy, attempt } = useAttempt();
  return (
    <OperatorOnly>
      <section aria-label="Power cut" className="flex flex-col items-start gap-2 print:hidden">
        <h2>The power cut</h2>
        <p className="text-[14px] text-ink2">
          A computer without screen and keys must come up by itself. Press, then pull its plug; give it power
          again, and touch nothing. Mistpeak writes down whether it came up, in how many seconds, with which
          links and address, and that it is locked.
        </p>
        {asked ? (
          <>
            <p role="status" className="border-l-[4px] border-look bg-raise px-3 py-2">
              Pull the plug now. Waiting since {formatAge(nowMs - asked.askedAtMs)}
              {asked.links.length > 0 && `; expected again: ${asked.links.join(', ')}`}.
            </p>
            <Button
              disabled={isBusy}
              onClick={() => void attempt(() => command('DELETE', '/departure/power-cut'))}
            >
              Not now
            </Button>
          </>
        ) : (
          <Button
            disabled={isBusy}
            onClick={() => void attempt(() => command('POST', '/departure/power-cut'))}
          >
            I pull the plug now
          </Button>
        )}
        {cut && (
          <p className="text-[14px]">
            Last time, {formatAge(nowMs - cut.cameUpAtMs)} ago: {cutInWords(cut)}.
          </p>
        )}
        {problem && <ProblemNote problem={problem} />}
      </section>
    </OperatorOnly>
  );
}
