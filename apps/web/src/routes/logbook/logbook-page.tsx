import { useState } from 'react';
import { isSuccess, trialTag, type Trial } from '@mistpeak/core/chain/record';
import { PURPOSES } from '@mistpeak/core/proof/ladder';
import { command } from '../../api';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { SearchField } from '../../pieces/search-field';

/** What worked? Every combination that was tried, for what, when, and what came of it. */
export function LogbookPage() {
  const trials = useLive((state) => state.trials);
  const [sought, seek] = useState('');
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = trials.filter((trial) => words.every((word) => textOf(trial).includes(word)));
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h1>Logbook</h1>
        <p className="text-ink2">What was tried with what, and what came of it. The planner goes by it.</p>
        <SearchField
          label="Search"
          value={sought}
          set={seek}
          placeholder="part, result, mark, date"
          className="ml-auto max-md:ml-0"
        />
      </header>
      {trials.length === 0 && (
        <p className="text-ink2">
          Nothing has been tried yet. At the foot of each setup sheet you write down what came of it.
        </p>
      )}
      {trials.length > 0 && shown.length === 0 && <p className="text-ink2">Nothing of that in the record.</p>}
      <ul className="flex flex-col" aria-label="Trials">
        {shown.map((trial) => (
          <Row key={trial.id} trial={trial} />
        ))}
      </ul>
    </div>
  );
}

const dateOf = ({ atMs }: Trial): string => new Date(atMs).toISOString().slice(0, 16).replace('T', ' ');

function textOf(trial: Trial): string {
  const { items, purpose, result, note, trick, antenna } = trial;
  return [
    ...items.map(({ name, version = '' }) => `${name} ${version}`),
    ...[PURPOSES[purpose].name, result, note, trick, antenna, dateOf(trial), trialTag(purpose, items)],
  ]
    .join(' ')
    .toLowerCase();
}

function Row({ trial }: { trial: Trial }) {
  const { id, items, purpose, result, trick, note, antenna, levelDbfs, settings } = trial;
  const [isOpen, setOpen] = useState(false);
  const ink = isSuccess(trial) ? 'border-proved text-proved' : 'border-stop text-stop';
  return (
    <li className="border-t border-line py-2.5">
      <p className="flex flex-wrap items-center gap-2.5">
        <span className={`rounded-full border-[1.5px] px-2.5 font-mono text-[13px] font-[600] ${ink}`}>
          {result}
        </span>
        <b className="font-[640]">{PURPOSES[purpose].name}</b>
        <span className="font-mono text-[13px] text-ink2">{dateOf(trial)} UTC</span>
        <span className="font-mono text-[13px] text-ink2">{trialTag(purpose, items)}</span>
      </p>
      <p className="text-[14px]">
        {items.map(({ name, version }) => (version ? `${name} (${version})` : name)).join(' – ')}
      </p>
      <p className="text-[13.5px] text-ink2">
        {[
          antenna && `antenna: ${antenna}`,
          levelDbfs !== undefined && `${levelDbfs} dBFS RMS`,
          trick && `trick: ${trick}`,
          note,
        ]
          .filter(Boolean)
          .join('; ')}
      </p>
      <div className="flex flex-wrap gap-2 pt-1">
        {Object.keys(settings).length > 0 && (
          <Button onClick={() => setOpen(!isOpen)} aria-expanded={isOpen}>
            {isOpen ? 'Hide the settings' : 'Settings'}
          </Button>
        )}
        <OperatorOnly>
          <Button onClick={() => void command('DELETE', `/trials/${id}`).catch(() => undefined)}>
            Remove
          </Button>
        </OperatorOnly>
      </div>
      {isOpen && (
        <dl className="grid gap-x-4 pt-2 text-[13.5px] md:grid-cols-[22rem_1fr]">
          {Object.entries(settings).map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-ink2">{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
      )}
    </li>
  );
}
