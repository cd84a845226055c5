import { Outlet } from 'react-router';
import { useLive } from '../live/store';
import { WelcomePage } from '../routes/welcome/welcome-page';
import { useAccess } from '../live/access';
import { ClimbStrip } from './climb-strip';
import { LoginForm } from './login-form';
import { PairingForm } from './pairing-form';
import { OutageNote } from './outage-note';
import { Palette } from './palette';
import { BottomBar, Rail } from './rail';
import { StatusLine } from './status-line';
import { WatcherNote } from './watcher-note';

/** The frame round every page: rail, status line, what is wrong with the server, and the page. */
export function Frame() {
  const hasOperator = useLive((state) => state.operator !== null);
  const isWaiting = useLive((state) => state.connection === 'connecting');
  const isNobody = useAccess(({ role }) => role === null);
  if (isNobody) return <Login />;
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
          <OutageNote />
          <WatcherNote />
        </div>
        <main id="page" tabIndex={-1} className="min-h-0 flex-1 md:overflow-y-auto">
          {hasOperator ? <Outlet /> : <WelcomePage />}
        </main>
      </div>
      <div className="contents print:hidden">
        <BottomBar />
      </div>
      {hasOperator && <Palette />}
    </div>
  );
}

/** For a browser on another machine. */
function Login() {
  return (
    <main className="mx-auto max-w-[30rem] px-7 py-12">
      <h1>Mistpeak</h1>
      <p className="mt-1 mb-5 text-ink2">
        Enter the pairing code that the operator’s screen shows, or log in with a password.
      </p>
      <PairingForm />
      <h2 className="mt-7 border-t-[1.5px] border-ink pt-2.5 pb-2">With a password</h2>
      <LoginForm />
    </main>
  );
}
