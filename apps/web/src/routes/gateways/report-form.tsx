import { useState } from 'react';
import type { Position } from '@mistpeak/core/geo/position';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { Button } from '../../pieces/button';
import { NumberField, SelectField, TextField } from '../../pieces/field';

const HOUR_MS = 3_600_000;

/** A try that this machine did not see. */
export function ReportForm({ call, from, close }: { call: string; from: Position; close: () => void }) {
  const nowMs = useNow(60_000);
  const [answered, setAnswered] = useState('yes');
  const [hoursAgo, setHoursAgo] = useState<number | undefined>(0);
  const [reporter, setReporter] = useState('');
  const { problem, isBusy, attempt } = useAttempt();
  const keep = async (): Promise<void> => {
    await command('POST', '/gateways/reports', {
      call,
      answered: answered === 'yes',
      atMs: Math.floor(nowMs - (hoursAgo ?? 0) * HOUR_MS),
      reporter: reporter.trim().toUpperCase(),
      // Where another stood, nobody has told.
      ...(reporter.trim() === '' ? { from } : {}),
    });
    close();
  };
  return (
    <form
      noValidate
      aria-label={`A try at ${call}`}
      className="flex w-full flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(keep);
      }}
    >
      <div className="w-32">
        <SelectField
          label="It answered"
          value={answered}
          onChange={({ target }) => setAnswered(target.value)}
        >
          <option>yes</option>
          <option>no</option>
        </SelectField>
      </div>
      <div className="w-32">
        <NumberField label="Hours ago" value={hoursAgo} error={problem?.fields?.atMs} set={setHoursAgo} />
      </div>
      <div className="w-44">
        <TextField
          label="Told by"
          hint="empty: my own try"
          mono
          value={reporter}
          error={problem?.fields?.reporter}
          onChange={({ target }) => setReporter(target.value)}
        />
      </div>
      <Button type="submit" kind="main" disabled={isBusy || !(Number(hoursAgo) >= 0)}>
        Keep it
      </Button>
      <Button onClick={close}>Leave it</Button>
    </form>
  );
}
