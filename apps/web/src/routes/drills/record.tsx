import type { ExerciseId } from '@mistpeak/core/drills/exercises';
import type { DrillResult } from '@mistpeak/core/drills/score';
import { FAULTS } from '@mistpeak/core/faults/faults';
import type { ExerciseResult } from '@mistpeak/contract/drills';
import { formatDay } from '../../pieces/age';
import { Table } from '../../pieces/table';

const LAST = 12;
export const EXERCISE_NAMES: Readonly<Record<ExerciseId, string>> = {
  tally: 'The evening’s tally by mail',
  relay: 'A message relayed by hand',
};

/** What was practised, newest first. */
export function Record({ results }: { results: readonly DrillResult[] }) {
  return (
    <section aria-label="My record" className="flex flex-col gap-1">
      <h2>My record</h2>
      <Table stacks columns={['When', 'What it was', 'Found', 'Tests', 'Minutes', 'Packets', 'Score']}>
        {results
          .slice(-LAST)
          .toReversed()
          .map(({ atMs, faults, named, tests, minutes, packets, score, onPages }) => {
            const isFound = faults.every((one) => named.includes(one));
            return (
              <tr key={atMs} className="border-t border-line align-baseline">
                <td className="pr-3 font-mono text-[13px]">{formatDay(atMs)}</td>
                <td className="pr-3">
                  {faults.map((one) => FAULTS[one].name).join('; ')}
                  {onPages && <span className="text-[13px] text-ink3"> on the real pages</span>}
                </td>
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

export function Exercises({ results }: { results: readonly ExerciseResult[] }) {
  return (
    <section aria-label="Exercises done" className="flex flex-col gap-1">
      <h2>Exercises</h2>
      <Table stacks columns={['When', 'What it was', 'Done', 'Minutes', 'Packets']}>
        {results
          .slice(-LAST)
          .toReversed()
          .map(({ atMs, exercise, isDone, minutes, packets }) => (
            <tr key={atMs} className="border-t border-line align-baseline">
              <td className="pr-3 font-mono text-[13px]">{formatDay(atMs)}</td>
              <td className="pr-3">{EXERCISE_NAMES[exercise]}</td>
              <td className={`pr-3 ${isDone ? 'text-proved' : 'text-look'}`}>{isDone ? 'yes' : 'no'}</td>
              <td className="pr-3 font-mono">{minutes}</td>
              <td className="font-mono">{packets}</td>
            </tr>
          ))}
      </Table>
    </section>
  );
}
