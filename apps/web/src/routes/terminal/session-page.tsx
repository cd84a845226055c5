import { useEffect, useMemo, useState } from 'react';
import { decodeText, guessCharset, type Charset } from '@mistpeak/core/terminal/charset';
import type { SaidView, SessionView } from '@mistpeak/contract/sessions';
import type { SavedNode } from '@mistpeak/contract/terminal';
import { keepAsking } from '../../live/keep-asking';
import { useLines, useSaid, useTheirs } from '../../live/session-text';
import { useLive } from '../../live/store';
import { MailboxHelper } from './mailbox-helper';
import { NoAnswer } from './no-answer';
import { SessionHead } from './session-head';
import { SessionSide } from './session-side';
import { Screen, type ScreenLook } from './screen';
import { Typing } from './typing';

/** Enough to tell the letters by, and what the mailbox listed last. */
const TAIL_OCTETS = 6000;
const NOTHING_SAID: readonly SaidView[] = [];

/** One connection: its transcript, what can be said, and how good it is. */
export function SessionPage({ id }: { id: string }) {
  const live = useLive((state) => state.sessions.find((one) => one.id === id));
  const [kept, setKept] = useState<SessionView | 'none'>();
  useEffect(() => {
    // One that is long over is asked for.
    if (live) return;
    return keepAsking<SessionView>(`/sessions/${id}`, setKept, (problem) => {
      if (problem?.reason === 'not-found') setKept('none');
    });
  }, [id, live]);
  const view = live ?? kept;
  if (view === 'none')
    return <p className="text-ink2">There is no such session. It may have been removed.</p>;
  if (!view) return <p className="text-ink2">Looking for it …</p>;
  return <Shown view={view} />;
}

function Shown({ view }: { view: SessionView }) {
  const said = useSaid(view.id) ?? NOTHING_SAID;
  const lines = useLines(said);
  const theirs = useTheirs(said, TAIL_OCTETS);
  const node = useLive((state) => state.terminal.nodes.find(({ call }) => call === view.peer));
  const [look, setLook] = useState<ScreenLook>(() => lookOf(node));
  const charset = useCharset(look.charset, theirs);
  const tail = useMemo(() => decodeText(theirs, charset), [theirs, charset]);
  const isOpen = view.endedAtMs === undefined;
  const isTalk = isOpen && view.purpose === 'terminal';
  const isConnected = view.phase === 'connected' || view.phase === 'timer recovery';
  return (
    <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1fr)_19rem]">
      <div className="flex min-w-0 flex-col gap-3">
        <SessionHead view={view} />
        {!isConnected && view.calledBy === 'us' && view.connectedAtMs === undefined && (
          <NoAnswer view={view} />
        )}
        <Screen view={view} lines={lines} charset={charset} look={look} setLook={setLook} />
        {isOpen && view.purpose === 'mailbox' && (
          <p className="text-[14px] text-ink2">Your mailbox answers here; it needs nobody at the keys.</p>
        )}
        {isTalk && <MailboxHelper view={view} tail={tail} endOfText={node?.endOfText ?? '/EX'} />}
        {isTalk && <Typing view={view} charset={charset} />}
      </div>
      <SessionSide view={view} said={said} />
    </div>
  );
}

const lookOf = (node: SavedNode | undefined): ScreenLook => ({
  charset: node?.charset ?? 'guess',
  escapes: node?.escapes ?? 'strip',
  showsMine: true,
});

function useCharset(chosen: 'guess' | Charset, theirs: Uint8Array): Charset {
  return useMemo(() => (chosen === 'guess' ? guessCharset(theirs) : chosen), [chosen, theirs]);
}
