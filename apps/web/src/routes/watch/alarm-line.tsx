import { BellRing } from 'lucide-react';
import { useState } from 'react';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import type { UnitSystem } from '@mistpeak/core/units/units';
import { FARE_NAMES, fareWords } from './fare-words';
import { nameOf, openAlarms, type Person } from './people';

/** The one thing to do now; whoever has done it says so, and the next comes. */
export function AlarmLine({
  people,
  nowMs,
  units,
}: {
  people: readonly Person[];
  nowMs: number;
  units: UnitSystem;
}) {
  const alarms = openAlarms(people);
  const [first] = alarms;
  return (
    <section
      aria-label="Alarm"
      aria-live="assertive"
      className={first ? 'bg-stop text-paper' : 'border-y border-line'}
    >
      {first ? (
        <Open key={first.alarm.id} {...first} more={alarms.length - 1} nowMs={nowMs} units={units} />
      ) : (
        <p className="px-7 py-2.5 text-[15px] text-ink2 max-md:px-4">
          {people.length === 0 ? 'No alarm can come before somebody is on the list.' : 'No alarm.'}
        </p>
      )}
    </section>
  );
}

function Open({
  person,
  alarm,
  more,
  nowMs,
  units,
}: {
  person: Person;
  alarm: { readonly id: string; readonly need: Person['standing']['needs'][number] };
  more: number;
  nowMs: number;
  units: UnitSystem;
}) {
  const [note, setNote] = useState('');
  const { problem, isBusy, attempt } = useAttempt();
  const { watched } = person;
  return (
    <form
      className="flex flex-wrap items-center gap-x-4 gap-y-2 px-7 py-3 max-md:px-4"
      onSubmit={(event) => {
        event.preventDefault();
        const path = `/watch/alarms/${encodeURIComponent(alarm.id)}/acknowledgement`;
        void attempt(() => command('PUT', path, { note: note.trim() }));
      }}
    >
      <BellRing className="size-6 shrink-0" aria-hidden />
      <p className="min-w-0 flex-1 text-[1.25rem] leading-tight font-[650] max-md:min-w-[75%]">
        {nameOf(watched)}: {FARE_NAMES[alarm.need]}
        <span className="block text-[15px] font-[450]">
          {fareWords(alarm.need, person, { nowMs, units })}
          {watched.contact === '' ? '' : ` · reach them: ${watched.contact}`}
          {more > 0 ? ` · ${more} more` : ''}
        </span>
      </p>
      <label className="text-[14px] font-[560] max-md:w-full">
        What was done{' '}
        <input
          value={note}
          maxLength={300}
          onChange={({ target }) => setNote(target.value)}
          className="ml-1 w-56 rounded-[7px] border-[1.5px] border-paper bg-raise px-2.5 py-1.5 text-ink max-md:ml-0 max-md:min-h-11 max-md:w-full"
        />
      </label>
      <Button type="submit" disabled={isBusy}>
        Acknowledge
      </Button>
      {problem && (
        <div className="w-full rounded bg-raise px-3 py-2 text-ink">
          <ProblemNote problem={problem} />
        </div>
      )}
    </form>
  );
}
