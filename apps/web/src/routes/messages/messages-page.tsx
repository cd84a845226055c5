import { useParams } from 'react-router';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useBulletins, useUnread } from '../../live/conversations';
import { useLive } from '../../live/store';
import { SectionLinks } from '../../pieces/section-links';
import { BulletinsView } from './bulletins-view';
import { NetsView } from './nets-view';
import { RulesView } from './rules-view';
import { ServicesView } from './services-view';
import { TalksView } from './talks-view';

/** Did it arrive? */
export function MessagesPage() {
  const { section = 'talks' } = useParams();
  const operator = useLive((state) => state.operator) as OperatorView;
  const unread = useUnread();
  const bulletins = useBulletins();
  const count = (name: string, some: number): string => (some === 0 ? name : `${name} (${some} new)`);
  const sections = {
    talks: count('Messages', unread),
    services: 'Services',
    bulletins: count('Bulletins', bulletins.unread),
    nets: 'Nets',
    rules: 'Rules',
  };
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <h1>Messages</h1>
      <SectionLinks
        label="Parts"
        sections={sections}
        current={section}
        addressOf={(id) => `/messages/${id}`}
      />
      {section === 'services' ? (
        <ServicesView />
      ) : section === 'bulletins' ? (
        <BulletinsView />
      ) : section === 'nets' ? (
        <NetsView operator={operator} />
      ) : section === 'rules' ? (
        <RulesView />
      ) : (
        <TalksView />
      )}
    </div>
  );
}
