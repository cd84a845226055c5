import { useEffect, useState } from 'react';
import { KEPT_KINDS, type KeepingView, type KeptKind } from '@mistpeak/contract/keeping';
import type { Problem } from '@mistpeak/contract/failures';
import { command } from '../../api';
import { keepAsking } from '../../live/keep-asking';
import { useAttempt } from '../../live/attempt';
import { formatDay } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { NumberField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { formatSize } from '../../pieces/size';

type Days = Partial<Record<KeptKind, number | undefined>>;

/** How long what was heard is kept, and how much room it takes. */
export function WhatIsKept() {
  const [view, setView] = useState<KeepingView>();
  const [days, setDays] = useState<Days>({});
  const [words, setWords] = useState('');
  const [trouble, setTrouble] = useState<Problem>();
  const { problem = trouble, isBusy, attempt } = useAttempt();
  const take = (now: KeepingView): void => {
    setView(now);
    const { version: _, ...saved } = now.settings;
    setDays(saved);
  };
  // Once, as the page comes up.
  useEffect(() => keepAsking('/record/keeping', take, setTrouble), []);
  const save = (): void =>
    void attempt(async () => {
      const version = view?.settings.version ?? 0;
      take(await command<KeepingView>('PUT', '/record/keeping', { ...days, version }));
      setWords('Saved. What is too old goes within the hour.');
    });
  const drop = (): void =>
    void attempt(async () => {
      const { dropped } = await command<{ dropped: number }>('POST', '/record/keeping/drop');
      take(await command<KeepingView>('GET', `/record/keeping?n=${Date.now()}`));
      setWords(dropped === 0 ? 'Nothing is too old.' : `${dropped} entries were dropped.`);
    });
  return (
    <section
      aria-label="What is kept"
      className="flex flex-col items-start gap-2 border-t-[1.5px] border-ink pt-2.5"
    >
      <h2>What is kept</h2>
      <p className="text-[14px] text-ink2">
        {view
          ? `The record holds about ${view.entries.toLocaleString('en')} entries in ${formatSize(view.octets)}${
              view.oldestAtMs === undefined ? '' : `, since ${formatDay(view.oldestAtMs)} UTC`
            }.`
          : 'Looking at the record …'}{' '}
        Nothing that you did is ever dropped: what was sent, what came back of it, messages, sessions, mail
        and logs.
      </p>
      <OperatorOnly>
        <div className="grid w-full grid-cols-2 gap-x-3">
          {(Object.keys(KEPT_KINDS) as KeptKind[]).map((kind) => (
            <NumberField
              key={kind}
              label={`Days: ${KEPT_KINDS[kind]}`}
              hint="empty: for ever"
              value={days[kind]}
              error={problem?.fields?.[kind]}
              set={(value) => setDays({ ...days, [kind]: value })}
            />
          ))}
        </div>
        <div className="flex flex-wrap gap-2">
          <Button kind="main" disabled={isBusy || !view} onClick={save}>
            Save how long
          </Button>
          <Button disabled={isBusy || !view} onClick={drop}>
            Drop what is too old now
          </Button>
        </div>
      </OperatorOnly>
      <p role="status" className="text-[13.5px] text-ink2">
        {words}
      </p>
      {problem && !problem.fields && <ProblemNote problem={problem} />}
    </section>
  );
}
