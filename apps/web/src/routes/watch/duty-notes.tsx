import { useState } from 'react';
import { dutyWords, type DutyEntry } from '@mistpeak/core/watch/duty-log';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { formatClock } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';

/** A line for the log, about the one that is selected or about the desk. */
export function DutyNotes({ about, name }: { about: string | undefined; name: string | undefined }) {
  const [words, setWords] = useState('');
  const { problem, isBusy, attempt } = useAttempt();
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const note = { words: words.trim(), ...(about === undefined ? {} : { call: about }) };
        if (note.words !== '')
          void attempt(() => command('POST', '/watch/notes', note)).then((isKept) => isKept && setWords(''));
      }}
    >
      <label className="flex min-w-0 flex-1 flex-col gap-1 text-[13.5px] font-[620]">
        Note for the log{name === undefined ? '' : `, about ${name}`}
        <input
          value={words}
          maxLength={500}
          onChange={({ target }) => setWords(target.value)}
          className="w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 font-[450] text-ink max-md:min-h-11"
        />
      </label>
      <Button type="submit" disabled={isBusy || words.trim() === ''}>
        Write it down
      </Button>
      {problem && <ProblemNote problem={problem} />}
    </form>
  );
}

export function DutyRows({ entries }: { entries: readonly DutyEntry[] }) {
  return (
    <ol aria-label="Duty log" className="text-[13.5px]">
      {entries.map((entry) => (
        <li key={entry.id} className="grid grid-cols-[62px_1fr] gap-x-2 border-b border-line py-1">
          <time className="font-mono text-[12.5px] text-ink3" dateTime={new Date(entry.atMs).toISOString()}>
            {formatClock(entry.atMs, 'local')}
          </time>
          <span className="min-w-0 break-words">
            {entry.call !== undefined && <b className="font-[620]">{entry.label ?? entry.call} </b>}
            {dutyWords(entry)}
          </span>
        </li>
      ))}
    </ol>
  );
}
