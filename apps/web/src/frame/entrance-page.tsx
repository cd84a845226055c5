import { useAccess } from '../live/access';
import { LoginForm } from '../forms/login-form';
import { PairingForm } from '../forms/pairing-form';

/** Where an address led that had been used before. */
const IS_USED = new URLSearchParams(location.search).get('entrance') === 'used';

/** For a browser that nobody has let in yet: how one comes in, and nothing else. */
export function EntrancePage() {
  const { isLocal, passwords } = useAccess();
  const hasPassword = passwords.operator || passwords.watcher;
  return (
    <main className="mx-auto max-w-[34rem] px-7 py-12">
      <h1>Mistpeak</h1>
      {isLocal ? (
        <OnThisMachine />
      ) : (
        <>
          <p className="mt-1 mb-5 text-ink2">
            Enter the pairing code that the operator’s screen shows
            {hasPassword ? ', or log in with a password' : ''}.
          </p>
          <PairingForm />
        </>
      )}
      {hasPassword && (
        <>
          <h2 className="mt-7 border-t-[1.5px] border-ink pt-2.5 pb-2">With a password</h2>
          <LoginForm />
        </>
      )}
    </main>
  );
}

/** Others may use this machine too: only who sees its terminal is the operator. */
function OnThisMachine() {
  return (
    <>
      <p role="status" className="mt-1 text-ink2">
        {IS_USED
          ? 'That address has been used, or is older than an hour. '
          : 'Mistpeak runs on this machine, and this browser has not been let in. '}
        Whoever started it lets it in by an address that works once:
      </p>
      <ol className="mt-4 flex list-decimal flex-col gap-2 pl-5">
        <li>
          In a terminal, in the folder of Mistpeak, type{' '}
          <code className="rounded bg-raise px-1.5 py-0.5 font-mono whitespace-nowrap">
            ./mistpeak address
          </code>
        </li>
        <li>Open what it prints in this browser.</li>
      </ol>
      <p className="mt-4 text-[14px] text-ink3">
        Started with <code className="font-mono">--data DIR</code>, give it the same here. A window that keeps
        no cookies, as a private one, is let in anew each time.
      </p>
    </>
  );
}
