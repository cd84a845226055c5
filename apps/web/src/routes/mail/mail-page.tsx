import { useParams } from 'react-router';
import { useLive } from '../../live/store';
import { useMailDesk } from '../../live/mail-desk';
import { ProblemNote } from '../../pieces/problem-note';
import { SectionLinks } from '../../pieces/section-links';
import { AccountView } from './account-view';
import { FormsView } from './forms-view';
import { LettersView } from './letters-view';
import { ReadView } from './read-view';
import { SatchelView } from './satchel-view';
import { SessionsView } from './sessions-view';
import { WaysView } from './ways-view';
import { WriteView } from './write-view';

const PARENTS: Readonly<Record<string, string>> = { read: 'letters', write: 'satchel' };

/** Write first, then one short session. */
export function MailPage() {
  const { section = 'satchel', id } = useParams();
  const { value: desk, problem, again } = useMailDesk();
  const { unread, waiting } = useLive((state) => state.mail);
  const sections = {
    satchel: waiting === 0 ? 'Satchel' : `Satchel (${waiting} to go)`,
    letters: unread === 0 ? 'Letters' : `Letters (${unread} new)`,
    forms: 'Forms',
    sessions: 'Sessions',
    ways: 'Gateways and ways',
    account: 'Account',
  };
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1>Mail</h1>
        <p className="text-ink2">{sentence(waiting, unread)}</p>
      </header>
      <SectionLinks
        label="Parts"
        sections={sections}
        current={PARENTS[section] ?? section}
        addressOf={(one) => `/mail/${one}`}
      />
      {problem && <ProblemNote problem={problem} />}
      {!desk ? (
        !problem && <p className="text-ink2">Looking into the satchel …</p>
      ) : section === 'write' ? (
        <WriteView key={id ?? 'new'} id={id ?? 'new'} desk={desk} />
      ) : section === 'read' && id !== undefined ? (
        <ReadView key={id} id={id} desk={desk} />
      ) : section === 'letters' ? (
        <LettersView box={id ?? 'inbox'} desk={desk} />
      ) : section === 'forms' ? (
        <FormsView desk={desk} again={again} />
      ) : section === 'sessions' ? (
        <SessionsView id={id} />
      ) : section === 'ways' ? (
        <WaysView desk={desk} again={again} />
      ) : section === 'account' ? (
        <AccountView desk={desk} again={again} />
      ) : (
        <SatchelView desk={desk} />
      )}
    </div>
  );
}

function sentence(waiting: number, unread: number): string {
  const out =
    waiting === 0
      ? 'Nothing waits to go'
      : waiting === 1
        ? 'One letter waits to go'
        : `${waiting} letters wait to go`;
  const came = unread === 0 ? 'nothing is unread' : unread === 1 ? 'one is unread' : `${unread} are unread`;
  return `${out}; ${came}.`;
}
