import { useNavigate } from 'react-router';
import type { SessionView } from '@mistpeak/contract/sessions';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { standingWords } from './words';

/** With whom, by which way, how it stands, and who is answerable for it. */
export function SessionHead({ view }: { view: SessionView }) {
  const nowMs = useNow();
  const { problem, isBusy, attempt } = useAttempt();
  const navigate = useNavigate();
  const link = useLive((state) => state.links.find(({ id }) => id === view.linkId));
  const operator = useLive((state) => state.operator?.call);
  const isShell = useLive((state) =>
    state.terminal.nodes.some(({ call, kind }) => call === view.peer && kind === 'shell'),
  );
  const isOpen = view.endedAtMs === undefined;
  const again = async (): Promise<void> => {
    const { own: from, peer: to, via, linkId, parameters, frequencyMHz } = view;
    const more = frequencyMHz === undefined ? {} : { frequencyMHz };
    const called = { from, to, via: via.join(','), linkId, parameters, ...more };
    const { id } = await command<SessionView>('POST', '/sessions', called);
    void navigate(`/terminal/session/${id}`);
  };
  return (
    <header className="flex flex-col gap-1">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h2 className="font-mono text-[1.15rem]">
          {view.own} ↔ {view.peer}
        </h2>
        <p role="status" className="min-w-0 flex-1 text-[14.5px]" data-phase={view.phase}>
          {standingWords(view, nowMs)}
        </p>
        <OperatorOnly>
          {isOpen ? (
            <Button
              kind="stop"
              disabled={isBusy}
              onClick={() => void attempt(() => command('POST', `/sessions/${view.id}/disconnect`))}
            >
              {view.phase === 'awaiting release' ? 'Do not wait' : `End with ${view.peer}`}
            </Button>
          ) : (
            view.calledBy === 'us' && (
              <Button disabled={isBusy} onClick={() => void attempt(again)}>
                Call {view.peer} again
              </Button>
            )
          )}
        </OperatorOnly>
      </div>
      <p className="text-[13.5px] text-ink2">
        {view.via.length > 0 && `via ${view.via.join(', ')} · `}
        {link?.settings.name ?? 'a link that was removed'}
        {view.frequencyMHz !== undefined && ` · ${view.frequencyMHz.toFixed(3)} MHz`} · control operator{' '}
        {operator}, call in force {view.own}. Whoever is logged in here as operator may type; watchers look
        on.
      </p>
      {isShell && isOpen && (
        <p className="text-[13.5px] text-look">
          A login shell: leave it by “exit” before you end the session, or the next caller may find it open.
        </p>
      )}
      {view.trouble && isOpen && (
        <p role="alert" className="text-[14px] text-look">
          {view.trouble}
        </p>
      )}
      {problem && <ProblemNote problem={problem} />}
    </header>
  );
}
