import { useState } from 'react';
import {
  ask,
  costOf,
  COURSE,
  drillOf,
  name,
  quickest,
  surpriseDrill,
  type Drill,
} from '@mistpeak/core/drills/drill';
import { explanationOf, scoreOf, weakIn, type DrillResult } from '@mistpeak/core/drills/score';
import { likelihoods, nextTests } from '@mistpeak/core/faults/bayes';
import { FAULT_IDS, FAULTS, type FaultId } from '@mistpeak/core/faults/faults';
import { TEST_IDS, TESTS } from '@mistpeak/core/faults/tests';
import type { DrillsView } from '@mistpeak/contract/drills';
import { command } from '../../api';
import { useAsked } from '../../live/asked';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { formatDay } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';
import { Fog } from './fog';

const SEEDS = 2 ** 31;
const LAST = 12;

/** Practise on a chain that is faulty, where nothing reaches the air. */
export function DrillsPage() {
  // A drill that was begun goes on after a reload.
  const { values, set, drop } = useDraft<{ drill?: Drill }>('drill', {});
  const { value: record, problem, again } = useAsked<DrillsView>('/drills');
  const { drill } = values;
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <h1>Drills</h1>
      {problem && <ProblemNote problem={problem} />}
      <OperatorOnly>
        {drill ? (
          <Running drill={drill} set={(next) => set({ drill: next })} leave={drop} kept={again} />
        ) : (
          <Choosing results={record?.results ?? []} begin={(next) => set({ drill: next })} />
        )}
      </OperatorOnly>
    </div>
  );
}

const newSeed = (): number => crypto.getRandomValues(new Uint32Array(1))[0]! % SEEDS;

function Choosing({ results, begin }: { results: readonly DrillResult[]; begin: (drill: Drill) => void }) {
  const weak = weakIn(results);
  const done = new Set(results.filter(({ score }) => score >= 60).flatMap(({ faults }) => faults));
  const next = COURSE.find((fault) => !done.has(fault));
  return (
    <div className="flex max-w-[62rem] flex-col gap-5">
      <p role="status" className="text-[19px] leading-snug font-[620]">
        {results.length === 0
          ? 'Somebody brings you a chain that does not work. Find out why, with as few tests as you can.'
          : weak.length > 0
            ? `You miss most often: ${FAULTS[weak[0] as FaultId].name}.`
            : `${results.length === 1 ? 'One drill' : `${results.length} drills`} done, ${Math.round(results.reduce((sum, { score }) => sum + score, 0) / results.length)} of 100 on average.`}
      </p>
      <div className="flex flex-wrap gap-2">
        <Button kind="main" onClick={() => begin(surpriseDrill(1, newSeed(), weak))}>
          One by surprise
        </Button>
        <Button onClick={() => begin(surpriseDrill(2, newSeed(), weak))}>Two at a time</Button>
      </div>
      <section aria-label="Course" className="flex flex-col gap-1">
        <h2>The ten, in the order of building</h2>
        <p className="text-[14px] text-ink2">
          {next === undefined
            ? 'All ten are done.'
            : 'They are numbered, not named: the name would tell the cause.'}
        </p>
        <ol aria-label="Ten drills" className="flex flex-wrap gap-2">
          {COURSE.map((fault, i) => (
            <li key={fault}>
              <Button
                kind={fault === next ? 'main' : 'plain'}
                onClick={() => begin(drillOf([fault], newSeed()))}
              >
                Drill {i + 1}
                {done.has(fault) && <span className="text-proved">done</span>}
              </Button>
            </li>
          ))}
        </ol>
      </section>
      {results.length > 0 && <Record results={results} />}
    </div>
  );
}

function Record({ results }: { results: readonly DrillResult[] }) {
  return (
    <section aria-label="My record" className="flex flex-col gap-1">
      <h2>My record</h2>
      <Table stacks columns={['When', 'What it was', 'Found', 'Tests', 'Minutes', 'Packets', 'Score']}>
        {results
          .slice(-LAST)
          .toReversed()
          .map(({ atMs, faults, named, tests, minutes, packets, score }) => {
            const isFound = faults.every((one) => named.includes(one));
            return (
              <tr key={atMs} className="border-t border-line align-baseline">
                <td className="pr-3 font-mono text-[13px]">{formatDay(atMs)}</td>
                <td className="pr-3">{faults.map((one) => FAULTS[one].name).join('; ')}</td>
                <td className={`pr-3 ${isFound ? 'text-proved' : 'text-look'}`}>{isFound ? 'yes' : 'no'}</td>
                <td className="pr-3 font-mono">{tests}</td>
                <td className="pr-3 font-mono">{minutes}</td>
                <td className="pr-3 font-mono">{packets}</td>
                <td className="font-mono font-[640]">{score}</td>
              </tr>
            );
          })}
      </Table>
    </section>
  );
}

function Running({
  drill,
  set,
  leave,
  kept,
}: {
  drill: Drill;
  set: (drill: Drill) => void;
  leave: () => void;
  kept: () => void;
}) {
  const done = drill.findings.map(({ test }) => test);
  const cost = costOf(drill);
  return (
    <div className="flex flex-col gap-4">
      <p role="note" className="border-l-[4px] border-look bg-raise px-3 py-2 text-[15px] font-[620]">
        This is a drill: the chain is made up here. Nothing that you press reaches the air or your own
        settings.
      </p>
      <p role="status" className="text-[19px] leading-snug font-[620]">
        “{drill.complaint.charAt(0).toUpperCase() + drill.complaint.slice(1)}.”{' '}
        <span className="font-[400] text-ink2">
          {cost.tests} tests, {cost.minutes} min, {cost.packets} packets so far.
        </span>
      </p>
      <Fog done={done} isClear={drill.named !== undefined} />
      <div className="grid gap-x-9 gap-y-5 lg:grid-cols-[minmax(0,1fr)_26rem]">
        <section aria-label="Findings" className="flex min-w-0 flex-col gap-1">
          <h2>What came out</h2>
          {drill.findings.length === 0 && <p className="text-[14px] text-ink2">Nothing is tried yet.</p>}
          <ol>
            {drill.findings.map(({ test, outcome }) => (
              <li key={test} className="border-t border-line py-1.5">
                {TESTS[test].what}: <b className="font-[640]">{outcome}</b>
              </li>
            ))}
          </ol>
          {drill.named ? (
            <Ended drill={drill} leave={leave} />
          ) : (
            <Naming drill={drill} set={set} leave={leave} kept={kept} />
          )}
        </section>
        {!drill.named && (
          <section aria-label="Tests" className="flex flex-col gap-1">
            <h2>Try</h2>
            <ul>
              {TEST_IDS.filter((test) => !done.includes(test)).map((test) => (
                <li key={test}>
                  <button
                    type="button"
                    onClick={() => set(ask(drill, test))}
                    className="flex min-h-9 w-full items-baseline justify-between gap-3 border-t border-line py-1.5 text-left text-[14.5px] hover:bg-raise max-md:min-h-11"
                  >
                    {TESTS[test].what}
                    <span className="shrink-0 font-mono text-[13px] text-ink3">
                      {TESTS[test].minutes} min{TESTS[test].packets > 0 && `, ${TESTS[test].packets} pkt`}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </div>
  );
}

function Naming({
  drill,
  set,
  leave,
  kept,
}: {
  drill: Drill;
  set: (drill: Drill) => void;
  leave: () => void;
  kept: () => void;
}) {
  const [named, setNamed] = useState<readonly FaultId[]>([]);
  const { problem, isBusy, attempt } = useAttempt();
  const end = async (): Promise<void> => {
    const { seed, faults, findings } = drill;
    await command('POST', '/drills', { seed, faults, tests: findings.map(({ test }) => test), named });
    set(name(drill, named));
    kept();
  };
  return (
    <form
      className="mt-3 flex flex-col gap-2"
      aria-label="The cause"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(end);
      }}
    >
      <h2>The cause is</h2>
      <ul className="grid gap-x-5 md:grid-cols-2">
        {FAULT_IDS.map((fault) => (
          <li key={fault}>
            <label className="flex min-h-8 items-baseline gap-2 text-[14px] max-md:min-h-11">
              <input
                type="checkbox"
                className="size-4 shrink-0 translate-y-0.5"
                checked={named.includes(fault)}
                onChange={({ target }) =>
                  setNamed(target.checked ? [...named, fault] : named.filter((one) => one !== fault))
                }
              />
              {FAULTS[fault].name}
            </label>
          </li>
        ))}
      </ul>
      {problem && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" kind="main" disabled={isBusy || named.length === 0 || named.length > 4}>
          That is it
        </Button>
        <Button onClick={leave}>Leave the drill</Button>
      </div>
    </form>
  );
}

function Ended({ drill, leave }: { drill: Drill; leave: () => void }) {
  const { faults, named = [] } = drill;
  const isFound = faults.every((one) => named.includes(one)) && named.length === faults.length;
  const best = quickest(drill);
  const [first] = nextTests(likelihoods(drill.complaint, []), []);
  return (
    <div className="mt-3 flex flex-col items-start gap-3">
      <p role="status" className={`text-[19px] font-[640] ${isFound ? 'text-proved' : 'text-look'}`}>
        {isFound ? 'Found.' : 'Not quite.'} {scoreOf(drill)} of 100.
      </p>
      {explanationOf(drill).map(({ fault, words, mend, by }) => (
        <div key={fault} className="border-l-[4px] border-proved bg-raise px-4 py-2">
          <p className="font-[640]">{FAULTS[fault].name}</p>
          <p className="text-[14px]">
            It is told by: {words}.{' '}
            {by.length > 0 ? `You had it from: ${by.join('; ')}.` : 'None of your tests spoke for it.'}
          </p>
          <p className="text-[14px] text-ink2">{mend}</p>
        </div>
      ))}
      <p className="text-[14px] text-ink2">
        By what tells most per minute:{' '}
        {best.findings.map(({ test }) => TESTS[test].what.toLowerCase()).join(', then ') || 'no test at all'}
        {first && best.findings.length === 0 ? '; the complaint alone says it' : ''}. The figures behind it
        are common practice.
      </p>
      <Button kind="main" onClick={leave}>
        Another drill
      </Button>
    </div>
  );
}
