import { ask, costOf, name, type Drill } from '@mistpeak/core/drills/drill';
import type { FaultId } from '@mistpeak/core/faults/faults';
import { TEST_IDS } from '@mistpeak/core/faults/tests';
import { command } from '../../api';
import { Ended } from './ended';
import { Fog } from './fog';
import { Naming } from './naming';
import { Findings, Tests } from './tests-to-ask';

/** A drill on a chain that is made up here. */
export function MadeUp({
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
  const end = async (named: readonly FaultId[]): Promise<void> => {
    const { seed, faults, findings } = drill;
    await command('POST', '/drills', { seed, faults, tests: findings.map(({ test }) => test), named });
    set(name(drill, named));
    kept();
  };
  return (
    <div className="flex flex-col gap-4">
      <p role="note" className="border-l-[4px] border-look bg-raise px-3 py-2 text-[15px] font-[620]">
        This is a drill: the chain is made up here. Nothing that you press reaches the air or your own
        settings.
      </p>
      <p role="status" className="text-[19px] leading-snug font-[620]">
        “{drill.complaint.charAt(0).toUpperCase() + drill.complaint.slice(1)}.”{' '}
        <span className="font-[400] text-ink2">
          {cost.tests} {cost.tests === 1 ? 'test' : 'tests'}, {cost.minutes} min, {cost.packets}{' '}
          {cost.packets === 1 ? 'packet' : 'packets'} so far.
        </span>
      </p>
      <Fog done={done} isClear={drill.named !== undefined} />
      <div className="grid gap-x-9 gap-y-5 lg:grid-cols-[minmax(0,1fr)_26rem]">
        <section aria-label="Findings" className="flex min-w-0 flex-col gap-1">
          <Findings findings={drill.findings} />
          {drill.named ? (
            <Ended drill={drill} leave={leave} />
          ) : (
            <Naming name={end} leave={() => Promise.resolve(leave())} />
          )}
        </section>
        {!drill.named && (
          <Tests
            tests={TEST_IDS.filter((test) => !done.includes(test))}
            ask={(test) => set(ask(drill, test))}
          />
        )}
      </div>
    </div>
  );
}
