import { useState } from 'react';
import { Link } from 'react-router';
import type { TripView } from '@mistpeak/contract/logbook';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatDay } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { TimeField } from '../../pieces/time-field';

/** The trips, the last first; the next starts from what the last one taught. */
export function TripsView() {
  const trips = useLive((state) => state.trips);
  const [isOpen, setOpen] = useState(false);
  const last = trips.find(({ better }) => better.trim() !== '');
  return (
    <div className="flex max-w-[60rem] flex-col gap-4">
      {last && (
        <p role="status" className="text-[19px] leading-snug font-[620]">
          After “{last.name}” you wrote: {last.better}
        </p>
      )}
      {trips.length === 0 && (
        <p className="text-ink2">
          No trip yet. Begin one when you leave: what you try, send and hear until you end it stands on one
          page.
        </p>
      )}
      <ul aria-label="Trips">
        {trips.map(({ id, name, fromMs, toMs, place }) => (
          <li key={id} className="border-t border-line py-2">
            <Link to={`/logbook/trips/${id}`} className="flex flex-wrap items-baseline gap-x-4">
              <b className="text-[16px] font-[640]">{name}</b>
              <span className="font-mono text-[13.5px] text-ink2">
                {formatDay(fromMs)} – {toMs === undefined ? 'goes on' : formatDay(toMs)}
              </span>
              <span className="text-[14px] text-ink2">{place}</span>
            </Link>
          </li>
        ))}
      </ul>
      <OperatorOnly>
        {isOpen ? (
          <TripForm close={() => setOpen(false)} />
        ) : (
          <Button kind="main" className="self-start" onClick={() => setOpen(true)}>
            Begin a trip …
          </Button>
        )}
      </OperatorOnly>
    </div>
  );
}

/** A trip, new or changed. */
export function TripForm({ trip, close }: { trip?: TripView; close: () => void }) {
  const nowMs = useNow(60_000);
  const { id, version, ...known } = trip ?? { id: undefined, version: undefined };
  const saved = { name: '', fromMs: Math.floor(nowMs / 60_000) * 60_000, place: '', better: '', ...known };
  const draft = useDraft<typeof saved & { toMs?: number }>(`trip ${id ?? 'new'}`, saved);
  const { values, set } = draft;
  const { problem, isBusy, attempt } = useAttempt();
  const finish = (): void => {
    draft.drop();
    close();
  };
  const save = async (): Promise<void> => {
    await (id === undefined
      ? command('POST', '/logbook/trips', values)
      : command('PUT', `/logbook/trips/${id}`, { ...values, version }));
    finish();
  };
  return (
    <form
      noValidate
      aria-label={trip ? `Change ${trip.name}` : 'New trip'}
      className="flex flex-col gap-3 border-l-[3px] border-edge bg-raise px-4 py-3 print:hidden"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(save);
      }}
    >
      <div className="grid gap-3 md:grid-cols-2">
        <TextField
          label="Name of the trip"
          value={values.name}
          error={problem?.fields?.name}
          onChange={({ target }) => set({ ...values, name: target.value })}
        />
        <TextField
          label="Where to"
          value={values.place}
          error={problem?.fields?.place}
          onChange={({ target }) => set({ ...values, place: target.value })}
        />
        <TimeField
          label="From"
          value={values.fromMs}
          error={problem?.fields?.fromMs}
          set={(fromMs) => fromMs !== undefined && set({ ...values, fromMs })}
        />
        <TimeField
          label="To"
          hint="UTC; empty: it goes on"
          value={values.toMs}
          error={problem?.fields?.toMs}
          set={(toMs) => {
            const { toMs: _, ...rest } = values;
            set(toMs === undefined ? rest : { ...rest, toMs });
          }}
        />
      </div>
      {trip && (
        <label className="text-[13.5px] font-[620]">
          What to do better
          <textarea
            rows={3}
            value={values.better}
            onChange={({ target }) => set({ ...values, better: target.value })}
            className="mt-1 block w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 text-[15px] font-[400]"
          />
        </label>
      )}
      {problem && !problem.fields && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" kind="main" disabled={isBusy}>
          {trip ? 'Keep it' : 'Begin it'}
        </Button>
        <Button onClick={finish}>Leave it</Button>
      </div>
    </form>
  );
}
