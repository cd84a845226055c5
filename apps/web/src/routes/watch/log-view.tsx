import { useEffect, useState } from 'react';
import { dutyLogCsv, dutyLogMarkdown, type DutyEntry } from '@mistpeak/core/watch/duty-log';
import type { Problem } from '@mistpeak/contract/failures';
import { keepAsking } from '../../live/keep-asking';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import { saveFile } from '../../pieces/save-file';
import { DutyNotes, DutyRows } from './duty-notes';

/** All that happened at this watch: to read, to print, to hand on. */
export function LogView({ name, begunMs }: { name: string; begunMs: number }) {
  const last = useLive((state) => state.duty.at(-1)?.id);
  const [entries, setEntries] = useState<readonly DutyEntry[]>([]);
  const [problem, setProblem] = useState<Problem>();
  // Asked again with each new entry.
  useEffect(
    () => keepAsking(`/watch/log?sinceMs=${Math.round(begunMs)}`, setEntries, setProblem),
    [begunMs, last],
  );
  const file = `duty-log-${new Date(begunMs).toISOString().slice(0, 10)}`;
  return (
    <section aria-label="Log of the watch" className="flex max-w-[60rem] flex-col gap-3">
      <div className="flex flex-wrap gap-2 print:hidden">
        <Button onClick={() => saveFile(`${file}.csv`, 'text/csv', dutyLogCsv(entries))}>Save as CSV</Button>
        <Button onClick={() => saveFile(`${file}.md`, 'text/markdown', dutyLogMarkdown(name, entries))}>
          Save as Markdown
        </Button>
        <Button onClick={() => window.print()}>Print</Button>
      </div>
      {problem && <ProblemNote problem={problem} />}
      <div className="print:hidden">
        <DutyNotes about={undefined} name={undefined} />
      </div>
      {entries.length === 0 ? (
        <p className="text-ink2">
          Nothing yet: alarms, notes and messages to us are written down here by themselves.
        </p>
      ) : (
        <DutyRows entries={entries} />
      )}
    </section>
  );
}
