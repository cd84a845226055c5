import { useState } from 'react';
import { useAttempt } from '../../live/attempt';
import { beginReplay, SPEEDS } from '../../live/replay';
import { useNow } from '../../live/now';
import { Button } from '../../pieces/button';
import { SelectField, TextField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';

const HOUR_MS = 3_600_000;
/** For an input, in UTC, to the minute. */
const written = (atMs: number): string => new Date(atMs).toISOString().slice(0, 16);

/** Any past hour again, on the same screens. */
export function ReplayView({ begun }: { begun: () => void }) {
  const nowMs = useNow(60_000);
  const [from, setFrom] = useState(() => written(nowMs - HOUR_MS));
  const [speed, setSpeed] = useState(30);
  const { problem, isBusy, attempt } = useAttempt();
  const fromMs = Date.parse(`${from}:00Z`);
  const isPast = Number.isFinite(fromMs) && fromMs < nowMs;
  return (
    <form
      aria-label="Replay an hour"
      noValidate
      className="flex max-w-[34rem] flex-col gap-3 px-6 py-4 max-md:px-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (isPast) void attempt(() => beginReplay(fromMs, speed)).then((isBegun) => isBegun && begun());
      }}
    >
      <h2>Replay an hour</h2>
      <p className="text-[14px] text-ink2">
        What was heard passes again on the map, in the log and everywhere. Meanwhile nothing is sent or set
        from this page, and what happens now is not drawn into it.
      </p>
      <div className="grid gap-3 md:grid-cols-2">
        <TextField
          label="From, UTC"
          type="datetime-local"
          value={from}
          error={isPast ? undefined : 'a time that has passed'}
          onChange={({ target }) => setFrom(target.value)}
        />
        <SelectField label="Speed" value={speed} onChange={({ target }) => setSpeed(Number(target.value))}>
          {SPEEDS.map((times) => (
            <option key={times} value={times}>
              {times} ×{times === 1 ? '' : `, the hour in ${Math.round((60 / times) * 10) / 10} min`}
            </option>
          ))}
        </SelectField>
      </div>
      {problem && <ProblemNote problem={problem} />}
      <Button type="submit" kind="main" className="w-fit" disabled={isBusy || !isPast}>
        Replay this hour
      </Button>
    </form>
  );
}
