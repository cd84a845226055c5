import { Suspense } from 'react';
import { Outlet, useLocation } from 'react-router';
import { useLive } from '../live/store';
import { WelcomePage } from '../routes/welcome/welcome-page';
import { useAccess } from '../live/access';
import { AttentionMark } from './attention';
import { ClockNote } from './clock-note';
import { PracticeNote } from './practice-note';
import { ClimbStrip } from './climb-strip';
import { EntrancePage } from './entrance-page';
import { NetReminder } from './net-reminder';
import { OutageNote } from './outage-note';
import { Palette } from './palette';
import { BottomBar, Rail } from './rail';
import { ReplayNote } from './replay-note';
import { RemovalNotes } from './removal-notes';
import { StatusLine } from './status-line';
import { WatcherNote } from './watcher-note';

/** The frame round every page: rail, status line, what is wrong with the server, and the page. */
export function Frame() {
  const hasOperator = useLive((state) => state.operator !== null);
  const isWaiting = useLive((state) => state.connection === 'connecting');
  // Follows the address when the page is there, not when it is asked for.
  const { pathname } = useLocation();
  const isNobody = useAccess(({ role }) => role === null);
  if (isNobody) return <EntrancePage />;
  if (isWaiting) return <p className="p-8 text-ink2">Reaching Mistpeak …</p>;
  return (
    <div className="grid min-h-dvh md:h-dvh md:grid-cols-[168px_1fr] md:overflow-hidden print:block! print:h-auto! print:overflow-visible!">
      <a href="#page" className="absolute -top-20 left-2 z-50 rounded bg-raise px-3 py-2 focus:top-2">
        To the page
      </a>
      <div className="contents print:hidden">
        <Rail />
      </div>
      <div className="flex min-h-0 min-w-0 flex-col max-md:pb-20">
        <div className="contents print:hidden">
          <StatusLine />
          <ClimbStrip />
          <ReplayNote />
          <PracticeNote />
          <ClockNote />
          <OutageNote />
          <WatcherNote />
          <RemovalNotes />
          <NetReminder />
        </div>
        <main
          id="page"
          data-page={pathname.split('/')[1]}
          tabIndex={-1}
          className="min-h-0 flex-1 md:overflow-y-auto"
        >
          {hasOperator ? (
            <Suspense fallback={<p className="p-8 text-ink2">Opening the page …</p>}>
              <Outlet />
            </Suspense>
          ) : (
            <WelcomePage />
          )}
        </main>
      </div>
      <div className="contents print:hidden">
        <BottomBar />
      </div>
      {hasOperator && <Palette />}
      <AttentionMark />
    </div>
  );
}
