import type { TrueTimeView } from '@mistpeak/contract/true-time';
import { command } from '../api';
import { useAttempt } from '../live/attempt';
import { noteTrueTime, useLive } from '../live/store';
import { Button } from '../pieces/button';
import { OperatorOnly } from '../pieces/operator-only';
import { ProblemNote } from '../pieces/problem-note';

const SOURCES = { receiver: 'the position receiver', phone: 'a phone or another device' } as const;

/** A computer that woke with the wrong time: told on every page until the operator has decided. */
export function ClockNote() {
  const { wrong, correctedByMs } = useLive((state) => state.trueTime);
  const { problem, isBusy, attempt } = useAttempt();
  const tell = (method: 'PUT' | 'DELETE', body?: object): void => {
    void attempt(async () => {
      noteTrueTime(await command<TrueTimeView>(method, '/true-time/correction', body));
    });
  };
  if (!wrong && correctedByMs === 0) return null;
  return (
    <section
      aria-label="The computer’s clock"
      className="flex flex-wrap items-baseline gap-x-4 gap-y-2 border-b border-line bg-sheet px-7 py-2 text-[14.5px] max-md:px-4"
    >
      {wrong ? (
        <p role="status">
          <b className="font-[640] text-look">
            This computer’s clock is {spanOf(wrong.offByMs)} {wrong.offByMs > 0 ? 'behind' : 'ahead'}
          </b>
          , by {SOURCES[wrong.source]}. What it has written since it was started bears wrong times.
        </p>
      ) : (
        <p role="status">
          This computer’s clock is {spanOf(correctedByMs)} {correctedByMs > 0 ? 'behind' : 'ahead'}; Mistpeak
          reckons with the right time until it is set.
        </p>
      )}
      <OperatorOnly>
        <span className="flex flex-wrap gap-2">
          {wrong && (
            <Button
              kind="main"
              disabled={isBusy}
              onClick={() => tell('PUT', { offByMs: wrong.offByMs, withinMs: 0 })}
            >
              Take that time
            </Button>
          )}
          <Button disabled={isBusy} onClick={() => tell('DELETE')}>
            {wrong ? 'The computer is right' : 'Take it back'}
          </Button>
        </span>
      </OperatorOnly>
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}

/** `4.2 s`, `47 min`, `3.0 h`, `12 days`. */
function spanOf(offByMs: number): string {
  const seconds = Math.abs(offByMs) / 1000;
  if (seconds < 120) return `${seconds.toFixed(1)} s`;
  if (seconds < 7200) return `${Math.round(seconds / 60)} min`;
  return seconds < 172_800 ? `${(seconds / 3600).toFixed(1)} h` : `${Math.round(seconds / 86_400)} days`;
}
