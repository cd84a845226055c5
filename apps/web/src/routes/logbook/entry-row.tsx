import { Check, Minus, X } from 'lucide-react';
import { useState } from 'react';
import type { Entry } from '@mistpeak/core/logbook/entry';
import { command } from '../../api';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { KIND_WORDS } from './kind-words';
import { formatClock, formatDay } from '../../pieces/age';

/** One line of the logbook: when, how it went, of what, and what came of it. */
export function EntryRow({ entry }: { entry: Entry }) {
  const { kind, atMs, ok, what, words, tag, hasPicture, id } = entry;
  const Mark = ok === undefined ? Minus : ok ? Check : X;
  const ink = ok === undefined ? 'text-ink3' : ok ? 'text-proved' : 'text-stop';
  return (
    <li className="grid grid-cols-[3.4rem_1.4rem_minmax(0,1fr)] items-baseline gap-x-2 border-t border-line py-1.5">
      <span className="font-mono text-[13.5px] text-ink2">{formatClock(atMs, 'utc').slice(0, 5)}</span>
      <span className={ink}>
        <Mark className="size-4 self-center" aria-hidden />
        <span className="sr-only">{ok === undefined ? '' : ok ? 'went well' : 'failed'}</span>
      </span>
      <div className="min-w-0">
        <p className="flex flex-wrap items-baseline gap-x-3">
          <b className="text-[15px] font-[620]">{what}</b>
          <span className="text-[12.5px] text-ink3">{KIND_WORDS[kind]}</span>
          {tag && <span className="font-mono text-[12.5px] text-ink3">{tag}</span>}
        </p>
        <p className="text-[14px] break-words whitespace-pre-line text-ink2">{words}</p>
        {hasPicture && (
          <img
            src={`/api/v1/logbook/notes/${id}/picture`}
            alt={`Picture of the note: ${words.slice(0, 80)}`}
            loading="lazy"
            className="mt-1 max-h-72 max-w-full border border-line"
          />
        )}
        {kind === 'trial' && <TrialActs id={id} />}
        {kind === 'note' && (
          <OperatorOnly>
            <Remove path={`/logbook/notes/${id}`} />
          </OperatorOnly>
        )}
      </div>
    </li>
  );
}

function TrialActs({ id }: { id: string }) {
  const trial = useLive((state) => state.trials.find((one) => one.id === id));
  const [isOpen, setOpen] = useState(false);
  const settings = Object.entries(trial?.settings ?? {});
  return (
    <div className="pt-1 print:hidden">
      <div className="flex flex-wrap gap-2">
        {settings.length > 0 && (
          <Button onClick={() => setOpen(!isOpen)} aria-expanded={isOpen}>
            {isOpen ? 'Hide the settings' : 'Settings'}
          </Button>
        )}
        <OperatorOnly>
          <Remove path={`/trials/${id}`} />
        </OperatorOnly>
      </div>
      {isOpen && (
        <dl className="grid gap-x-4 pt-2 text-[13.5px] md:grid-cols-[22rem_1fr]">
          {settings.map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-ink2">{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
      )}
    </div>
  );
}

function Remove({ path }: { path: string }) {
  return (
    <Button className="print:hidden" onClick={() => void command('DELETE', path).catch(() => undefined)}>
      Remove
    </Button>
  );
}

/** Entries under the days on which they were, as they come. */
export function Days({ entries }: { entries: readonly Entry[] }) {
  const days = new Map<string, Entry[]>();
  for (const entry of entries) {
    const day = formatDay(entry.atMs).slice(0, 10);
    days.set(day, [...(days.get(day) ?? []), entry]);
  }
  return [...days].map(([day, own]) => (
    <section key={day} aria-label={day}>
      <h2 className="mt-3 border-b-[1.5px] border-ink pb-0.5 font-mono text-[14px]">{day}</h2>
      <ul aria-label={`Entries of ${day}`}>
        {own.map((entry) => (
          <EntryRow key={`${entry.kind} ${entry.id}`} entry={entry} />
        ))}
      </ul>
    </section>
  ));
}
