import { useState } from 'react';
import { Link } from 'react-router';
import type { PairingView } from '@mistpeak/contract/access';
import { command } from '../../api';
import { useAccess } from '../../live/access';
import { useAttempt } from '../../live/attempt';
import { Button } from '../../pieces/button';
import { PairingPicture } from '../../pieces/pairing-picture';
import { ProblemNote } from '../../pieces/problem-note';

/** A link for the volunteer at the desk: they see, acknowledge and write notes, and cannot transmit by any way. */
export function ShareNote() {
  const addresses = useAccess((access) => access.addresses);
  const [pairing, setPairing] = useState<PairingView>();
  const { problem, attempt } = useAttempt();
  const make = (): void => {
    const wish = { role: 'watcher', name: 'event desk' };
    void attempt(() => command<PairingView>('POST', '/access/pairings', wish).then(setPairing));
  };
  return (
    <section
      aria-label="Share the desk"
      className="flex max-w-[46rem] flex-col items-start gap-2 border-t border-line pt-2"
    >
      <h2>Share the desk</h2>
      <p className="text-[14px] text-ink2">
        A watcher sees this page on a phone, a tablet or the wall, acknowledges alarms and writes notes. He
        changes no setting and cannot transmit by any way.
      </p>
      {addresses.length === 0 ? (
        <p className="text-[14px] text-ink2">
          Mistpeak is on this machine only: started with <code className="font-mono text-ink">--lan</code> it
          lets others in. On this machine a watcher’s password does: see <Link to="/settings">Settings</Link>.
        </p>
      ) : (
        <Button onClick={make}>Make a link for a watcher</Button>
      )}
      {problem && <ProblemNote problem={problem} />}
      {pairing && <PairingPicture pairing={pairing} to="/watch" />}
    </section>
  );
}
