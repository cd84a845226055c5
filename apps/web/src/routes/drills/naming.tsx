import { useState } from 'react';
import { FAULT_IDS, FAULTS, type FaultId } from '@mistpeak/core/faults/faults';
import { useAttempt } from '../../live/attempt';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';

const MOST_NAMED = 4;

/** What one takes for the causes. */
export function Naming({
  name,
  leave,
}: {
  name: (named: readonly FaultId[]) => Promise<void>;
  leave: () => Promise<void>;
}) {
  const [named, setNamed] = useState<readonly FaultId[]>([]);
  const { problem, isBusy, attempt } = useAttempt();
  return (
    <form
      className="mt-3 flex flex-col gap-2"
      aria-label="The cause"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(() => name(named));
      }}
    >
      <h2>The cause is</h2>
      <ul className="grid gap-x-5 md:grid-cols-2">
        {FAULT_IDS.map((fault) => (
          <li key={fault}>
            <label className="flex min-h-8 items-baseline gap-2 py-1 text-[14px] leading-snug max-md:min-h-11">
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
        <Button
          type="submit"
          kind="main"
          disabled={isBusy || named.length === 0 || named.length > MOST_NAMED}
        >
          That is it
        </Button>
        <Button disabled={isBusy} onClick={() => void attempt(leave)}>
          Leave the drill
        </Button>
      </div>
    </form>
  );
}
