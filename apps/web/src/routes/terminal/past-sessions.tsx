import { useState } from 'react';
import { Link } from 'react-router';
import type { SessionView } from '@mistpeak/contract/sessions';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';
import { isOpenSession } from './words';

const SHOWN = 12;

/** The last that ended, and a search through the words of all. */
export function PastSessions() {
  const ended = useLive((state) => state.sessions).filter(
    (view) => !isOpenSession(view) && view.purpose !== 'mail',
  );
  const [text, setText] = useState('');
  const [found, setFound] = useState<readonly SessionView[]>();
  const { problem, isBusy, attempt } = useAttempt();
  const nowMs = useNow(10_000);
  const shown = found ?? [...ended].reverse().slice(0, SHOWN);
  const search = (): Promise<boolean> =>
    attempt(async () =>
      setFound(
        text.trim() === ''
          ? undefined
          : await command<SessionView[]>('GET', `/sessions/search?text=${encodeURIComponent(text)}`),
      ),
    );
  return (
    <section aria-label="Past sessions" className="border-t-[1.5px] border-ink pt-2">
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void search();
        }}
      >
        <h2 className="flex-1">Past sessions</h2>
        <input
          type="search"
          aria-label="Words that were said"
          placeholder="words that were said"
          value={text}
          onChange={({ target }) => {
            setText(target.value);
            if (target.value === '') setFound(undefined);
          }}
          className="w-56 rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 max-md:min-h-11"
        />
        <Button type="submit" disabled={isBusy}>
          Find
        </Button>
      </form>
      {problem && <ProblemNote problem={problem} />}
      {shown.length === 0 ? (
        <p className="py-2 text-[14px] text-ink2">
          {found ? 'Nowhere was that said.' : 'None yet: every octet of a session is kept here.'}
        </p>
      ) : (
        <Table stacks columns={['With', 'As', 'When', 'Octets, mine and theirs', 'How it ended']}>
          {shown.map((view) => (
            <tr key={view.id} className="border-t border-line align-baseline">
              <td className="py-1.5 pr-4 font-mono">
                <Link
                  to={`/terminal/session/${view.id}`}
                  className="underline decoration-line underline-offset-4 hover:decoration-ink"
                >
                  {view.peer}
                </Link>
              </td>
              <td className="pr-4 font-mono text-ink2">{view.own}</td>
              <td className="pr-4 whitespace-nowrap text-ink2">{formatAge(nowMs - view.openedAtMs)} ago</td>
              <td className="pr-4 font-mono text-ink2">
                {view.confirmedOctets} · {view.heardOctets}
              </td>
              <td className="text-ink2">{view.outcome ?? 'it stands'}</td>
            </tr>
          ))}
        </Table>
      )}
    </section>
  );
}
