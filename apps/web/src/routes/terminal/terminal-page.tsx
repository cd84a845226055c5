import { useParams } from 'react-router';
import type { SessionView } from '@mistpeak/contract/sessions';
import { useLive } from '../../live/store';
import { SectionLinks } from '../../pieces/section-links';
import { CallView } from './call-view';
import { OwnMailboxView } from './own-mailbox-view';
import { PromptView } from './prompt-view';
import { SessionPage } from './session-page';
import { StationsView } from './stations-view';
import { VisitsView } from './visits-view';

/** What is said over a connection, and did it arrive? */
export function TerminalPage() {
  const { section = 'call', session } = useParams();
  const sessions = useLive((state) => state.sessions);
  const unread = useLive(
    ({ mailbox, operator }) =>
      mailbox.letters.filter(({ isRead, to }) => !isRead && to === operator?.call).length,
  );
  const open = sessions.filter(({ endedAtMs, purpose }) => endedAtMs === undefined && purpose !== 'mail');
  const sections = {
    call: open.length === 0 ? 'Call' : `Call (${open.length} open)`,
    visits: 'Visits',
    stations: 'Saved stations',
    mailbox: unread === 0 ? 'My mailbox' : `My mailbox (${unread} new)`,
    prompt: 'TNC prompt',
  };
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1>Terminal</h1>
        <p className="text-ink2">{sentenceOn(open)}</p>
      </header>
      <SectionLinks
        label="Parts"
        sections={sections}
        current={section === 'session' ? 'call' : section}
        addressOf={(id) => `/terminal/${id}`}
      />
      {section === 'session' && session !== undefined ? (
        <SessionPage id={session} />
      ) : section === 'visits' ? (
        <VisitsView />
      ) : section === 'stations' ? (
        <StationsView />
      ) : section === 'mailbox' ? (
        <OwnMailboxView />
      ) : section === 'prompt' ? (
        <PromptView />
      ) : (
        <CallView />
      )}
    </div>
  );
}

function sentenceOn(open: readonly SessionView[]): string {
  if (open.length === 0) return 'No connection stands: call somebody, or plan a visit off the air.';
  return open
    .map(({ peer, phase, confirmedOctets, queuedOctets }) => {
      if (phase === 'awaiting connection') return `${peer} is called.`;
      if (phase === 'awaiting release') return `${peer} is let go.`;
      const waits = queuedOctets - confirmedOctets;
      return waits === 0
        ? `${peer} has everything that you sent.`
        : `${waits} octets are on their way to ${peer}.`;
    })
    .join(' ');
}
