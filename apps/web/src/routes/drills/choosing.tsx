import { useState } from 'react';
import { COURSE, drillOf, surpriseDrill, type Drill } from '@mistpeak/core/drills/drill';
import { EXERCISE_IDS } from '@mistpeak/core/drills/exercises';
import { isWorldFault } from '@mistpeak/core/drills/practice';
import { weakIn } from '@mistpeak/core/drills/score';
import { FAULT_IDS, FAULTS, type FaultId } from '@mistpeak/core/faults/faults';
import type { DrillsView } from '@mistpeak/contract/drills';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { Button } from '../../pieces/button';
import { Choice } from '../../pieces/choice';
import { ProblemNote } from '../../pieces/problem-note';
import { EXERCISE_NAMES, Exercises, Record } from './record';

const SEEDS = 2 ** 31;
const GOOD = 60;
const MOST_CHOSEN = 2;
const newSeed = (): number => crypto.getRandomValues(new Uint32Array(1))[0]! % SEEDS;

/** What to practise, and where: on the real pages of the practice world, or on a chain that is made up here. */
export function Choosing({
  view,
  begin,
  show,
}: {
  view: DrillsView;
  begin: (drill: Drill) => void;
  show: (view: DrillsView) => void;
}) {
  const { results, exercises, practice } = view;
  const isHere = practice.place === 'here';
  const [onPages, setOnPages] = useState(isHere);
  const { problem, isBusy, attempt } = useAttempt();
  const weak = weakIn(results);
  const done = new Set(results.filter(({ score }) => score >= GOOD).flatMap(({ faults }) => faults));
  const next = COURSE.find((fault) => !done.has(fault));
  const practise = (what: string): void =>
    void attempt(async () => show(await command<DrillsView>('POST', '/drills/practice', { what })));
  const surprise = (count: 1 | 2): void =>
    onPages ? practise(count === 1 ? 'one' : 'two') : begin(surpriseDrill(count, newSeed(), weak));
  return (
    <div className="flex max-w-[62rem] flex-col gap-5">
      <p role="status" className="text-[19px] leading-snug font-[620]">
        {results.length === 0
          ? 'Somebody brings you a chain that does not work. Find out why, with as few tests as you can.'
          : weak.length > 0
            ? `You miss most often: ${FAULTS[weak[0] as FaultId].name}.`
            : `${results.length === 1 ? 'One drill' : `${results.length} drills`} done, ${Math.round(results.reduce((sum, { score }) => sum + score, 0) / results.length)} of 100 on average.`}
      </p>
      {isHere && (
        <Choice
          label="On the real pages: the fault is in this world, and you look for it on TNC, Air, Mail …"
          isOn={onPages}
          set={setOnPages}
        />
      )}
      {problem && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button kind="main" disabled={isBusy} onClick={() => surprise(1)}>
          One by surprise
        </Button>
        <Button disabled={isBusy} onClick={() => surprise(2)}>
          Two at a time
        </Button>
      </div>
      <section aria-label="Course" className="flex flex-col gap-1">
        <h2>The ten, in the order of building</h2>
        <p className="text-[14px] text-ink2">
          {next === undefined
            ? 'All ten are done.'
            : 'They are numbered, not named: the name would tell the cause.'}
          {onPages &&
            ` Drill ${COURSE.findIndex((fault) => !isWorldFault(fault)) + 1} is for the made-up chain alone.`}
        </p>
        <ol aria-label="Ten drills" className="flex flex-wrap gap-2">
          {COURSE.map((fault, i) => (
            <li key={fault}>
              <Button
                kind={fault === next ? 'main' : 'plain'}
                disabled={isBusy || (onPages && !isWorldFault(fault))}
                onClick={() => (onPages ? practise(`course ${i + 1}`) : begin(drillOf([fault], newSeed())))}
              >
                Drill {i + 1}
                {done.has(fault) && <span className="text-proved">done</span>}
              </Button>
            </li>
          ))}
        </ol>
      </section>
      <Chosen
        canBe={(fault) => !onPages || isWorldFault(fault)}
        begin={(faults) =>
          onPages ? practise(`chosen ${faults.join(' ')}`) : begin(drillOf(faults, newSeed()))
        }
      />
      {isHere && (
        <section aria-label="Exercises" className="flex flex-col gap-1">
          <h2>Nets and mail</h2>
          <p className="text-[14px] text-ink2">
            Nothing is hidden: a task, and Mistpeak sees by the record which of its steps are done.
          </p>
          <div className="flex flex-wrap gap-2">
            {EXERCISE_IDS.map((one) => (
              <Button key={one} disabled={isBusy} onClick={() => practise(one)}>
                {EXERCISE_NAMES[one]}
              </Button>
            ))}
          </div>
        </section>
      )}
      {practice.place === 'beside' && <Beside besideAt={practice.besideAt} show={show} />}
      {results.length > 0 && <Record results={results} />}
      {exercises.length > 0 && <Exercises results={exercises} />}
    </div>
  );
}

/** Whoever chooses knows the cause: it is for somebody else, who comes to the screen after it is closed. */
function Chosen({
  canBe,
  begin,
}: {
  canBe: (fault: FaultId) => boolean;
  begin: (faults: readonly FaultId[]) => void;
}) {
  const [faults, setFaults] = useState<readonly FaultId[]>([]);
  return (
    <details>
      <summary className="w-fit cursor-pointer font-[620] max-md:min-h-11">
        Choose the faults, for somebody else
      </summary>
      <ul className="grid gap-x-5 py-2 md:grid-cols-2">
        {FAULT_IDS.filter(canBe).map((fault) => (
          <li key={fault}>
            <Choice
              label={FAULTS[fault].name}
              isOn={faults.includes(fault)}
              set={(isOn) => setFaults(isOn ? [...faults, fault] : faults.filter((one) => one !== fault))}
            />
          </li>
        ))}
      </ul>
      <Button
        disabled={faults.length === 0 || faults.length > MOST_CHOSEN || !faults.every(canBe)}
        onClick={() => begin(faults)}
      >
        Begin with {faults.length > 1 ? 'these' : 'this'}
      </Button>
    </details>
  );
}

/** These are real radios: the practice world is another Mistpeak, with stand-ins alone. */
function Beside({ besideAt, show }: { besideAt: string | undefined; show: (view: DrillsView) => void }) {
  const { problem, isBusy, attempt } = useAttempt();
  const [isWished, setWished] = useState(false);
  const start = (): void =>
    void attempt(async () => {
      show(await command<DrillsView>('POST', '/drills/beside'));
      setWished(true);
    });
  return (
    <section aria-label="Practice world" className="flex flex-col items-start gap-1.5">
      <h2>On the real pages</h2>
      <p className="text-[14px] text-ink2">
        Your own radios are left alone. A practice world starts beside, with made-up stations and these same
        pages; it opens on this computer only.
      </p>
      {problem && <ProblemNote problem={problem} />}
      {besideAt === undefined ? (
        <Button disabled={isBusy || isWished} onClick={start}>
          {isWished ? 'It is starting: half a minute …' : 'Start the practice world'}
        </Button>
      ) : (
        <a href={`${besideAt}/drills`} target="_blank" rel="noreferrer" className="underline">
          Open the practice world
        </a>
      )}
    </section>
  );
}
