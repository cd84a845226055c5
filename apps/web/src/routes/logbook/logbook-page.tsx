import { useParams } from 'react-router';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useLive } from '../../live/store';
import { SectionLinks } from '../../pieces/section-links';
import { BackupView } from './backup-view';
import { ChangedView } from './changed-view';
import { StreamView } from './stream-view';
import { TripPage } from './trip-page';
import { TripsView } from './trips-view';

const SECTIONS = { all: 'All of it', changed: 'What changed?', trips: 'Trips', backup: 'Backup' } as const;

/** What worked? Everything that was tried, for what, when, and what came of it. */
export function LogbookPage() {
  const { section = 'all', id } = useParams();
  const operator = useLive((state) => state.operator) as OperatorView;
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <h1>Logbook</h1>
      <div className="print:hidden">
        <SectionLinks
          label="Parts"
          sections={SECTIONS}
          current={section}
          addressOf={(part) => `/logbook/${part}`}
        />
      </div>
      {section === 'backup' ? (
        <BackupView />
      ) : section === 'changed' ? (
        <ChangedView />
      ) : section === 'trips' ? (
        id === undefined ? (
          <TripsView />
        ) : (
          <TripPage key={id} id={id} operator={operator} />
        )
      ) : (
        <StreamView />
      )}
    </div>
  );
}
