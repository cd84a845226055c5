import { Link } from 'react-router';
import { ON_PAGES } from '@mistpeak/core/drills/practice';
import { TEST_IDS, TESTS, type TestId } from '@mistpeak/core/faults/tests';
import type { DrillsView, EndedPractice, RunningPractice } from '@mistpeak/contract/drills';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import { Naming } from './naming';
import { EXERCISE_NAMES } from './record';
import { Findings, Tests } from './tests-to-ask';

const PAGE_NAMES: Readonly<Record<(typeof ON_PAGES)[keyof typeof ON_PAGES], string>> = {
  '/tnc': 'TNC',
  '/air?show=log': 'Air, log',
  '/beacon': 'Beacon',
  '/mail': 'Mail',
  '/messages': 'Messages',
};
const isOnPages = (test: TestId): test is keyof typeof ON_PAGES => test in ON_PAGES;

interface Shown {
  readonly running: RunningPractice;
  readonly show: (view: DrillsView) => void;
}

/** What is practised on the real pages now. */
export function OnPages({ running, show, end }: Shown & { readonly end: (ended: EndedPractice) => void }) {
  return running.drill ? (
    <DrillOnPages running={running} drill={running.drill} show={show} end={end} />
  ) : running.exercise ? (
    <Exercise running={running} exercise={running.exercise} show={show} />
  ) : null;
}

function Spent({ running: { beganAtMs, packets } }: { running: RunningPractice }) {
  const nowMs = useNow(10_000);
  return (
    <span className="font-[400] text-ink2">
      {Math.max(0, Math.floor((nowMs - beganAtMs) / 60_000))} min by the clock, {packets}{' '}
      {packets === 1 ? 'packet' : 'packets'} sent.
    </span>
  );
}

function DrillOnPages({
  running,
  drill: { complaint, findings },
  show,
  end,
}: Shown & {
  readonly drill: NonNullable<RunningPractice['drill']>;
  readonly end: (ended: EndedPractice) => void;
}) {
  const { problem, attempt } = useAttempt();
  const done = findings.map(({ test }) => test);
  const ask = (test: TestId): void =>
    void attempt(async () => show(await command<DrillsView>('POST', '/drills/practice/tests', { test })));
  return (
    <div className="flex flex-col gap-4">
      <p role="note" className="border-l-[4px] border-look bg-raise px-3 py-2 text-[15px] font-[620]">
        This is a drill: something in this world of stand-ins is faulty. Look for it on the pages themselves.
      </p>
      <p role="status" className="text-[19px] leading-snug font-[620]">
        “{complaint.charAt(0).toUpperCase() + complaint.slice(1)}.” <Spent running={running} />
      </p>
      {problem && <ProblemNote problem={problem} />}
      <div className="grid gap-x-9 gap-y-5 lg:grid-cols-[minmax(0,1fr)_26rem]">
        <div className="flex min-w-0 flex-col gap-5">
          <section aria-label="Where to look" className="flex flex-col gap-1">
            <h2>Look for yourself</h2>
            <ul>
              {TEST_IDS.filter(isOnPages).map((test) => (
                <li key={test} className="flex justify-between gap-3 border-t border-line py-1.5">
                  {TESTS[test].what}
                  <Link to={ON_PAGES[test]} className="shrink-0 underline">
                    {PAGE_NAMES[ON_PAGES[test]]}
                  </Link>
                </li>
              ))}
            </ul>
          </section>
          <section aria-label="Findings" className="flex min-w-0 flex-col gap-1">
            <Findings findings={findings} />
            <Naming
              name={async (named) =>
                end(await command<EndedPractice>('POST', '/drills/practice/causes', { named }))
              }
              leave={async () => show(await command<DrillsView>('DELETE', '/drills/practice'))}
            />
          </section>
        </div>
        <Tests
          name="Ask: what no page shows"
          tests={TEST_IDS.filter((test) => !isOnPages(test) && !done.includes(test))}
          ask={ask}
        />
      </div>
    </div>
  );
}

function Exercise({
  running,
  exercise: { id, task, steps },
  show,
}: Shown & { readonly exercise: NonNullable<RunningPractice['exercise']> }) {
  const { problem, isBusy, attempt } = useAttempt();
  const isDone = steps.every((step) => step.isDone);
  const say = (method: 'POST' | 'DELETE', path: string): void =>
    void attempt(async () => show(await command<DrillsView>(method, path)));
  return (
    <div className="flex max-w-[46rem] flex-col gap-4">
      <h2>{EXERCISE_NAMES[id]}</h2>
      <p className="text-[17px] leading-snug">{task}</p>
      <p>
        <Spent running={running} />
      </p>
      <ol aria-label="Steps" className="flex flex-col">
        {steps.map((step) => (
          <li key={step.words} className="flex justify-between gap-3 border-t border-line py-1.5">
            {step.words}
            <b className={step.isDone ? 'text-proved' : 'font-[400] text-ink3'}>
              {step.isDone ? 'seen' : 'not yet'}
            </b>
          </li>
        ))}
      </ol>
      {problem && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button
          kind={isDone ? 'main' : 'plain'}
          disabled={isBusy}
          onClick={() => say('POST', '/drills/practice/exercise')}
        >
          {isDone ? 'Done: keep it' : 'End it unfinished'}
        </Button>
        <Button disabled={isBusy} onClick={() => say('DELETE', '/drills/practice')}>
          Leave, keep nothing
        </Button>
      </div>
    </div>
  );
}
