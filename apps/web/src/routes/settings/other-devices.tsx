import { useState } from 'react';
import { ROLES, type PairingView, type Role } from '@mistpeak/contract/access';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useAccess } from '../../live/access';
import { Button } from '../../pieces/button';
import { SelectField, TextField } from '../../pieces/field';
import { PairingPicture } from '../../pieces/pairing-picture';
import { ProblemNote } from '../../pieces/problem-note';
import { CloseHouse } from './close-house';
import { LetIn } from './let-in';

const ABOUT: Readonly<Record<Role, string>> = {
  operator: 'everything, transmitting too',
  watcher: 'sees all, sends nothing',
};

/** How a phone comes in: address, code, picture of both, and the authority that it is to trust. */
export function OtherDevices() {
  const addresses = useAccess((access) => access.addresses);
  const [role, setRole] = useState<Role>('watcher');
  const [name, setName] = useState('');
  const [pairing, setPairing] = useState<PairingView>();
  const { problem, attempt } = useAttempt();
  const make = (): void => {
    void attempt(() =>
      command<PairingView>('POST', '/access/pairings', { role, name: name.trim() }).then(setPairing),
    );
  };
  return (
    <section aria-label="Other devices" className="flex flex-col gap-3 border-t-[1.5px] border-ink pt-2.5">
      <h2>Other devices</h2>
      {addresses.length === 0 ? (
        <p className="text-[14px] text-ink2">
          Mistpeak is on this machine only. Started with <code className="font-mono text-ink">--lan</code> it
          serves phones and computers of this network too, by HTTPS, which browsers demand before they lend a
          serial port, Bluetooth or the microphone.
        </p>
      ) : (
        <>
          <p className="text-[14px] text-ink2">
            On this network at{' '}
            {addresses.map((address) => (
              <b key={address} className="font-mono font-[600] text-ink">
                {address}{' '}
              </b>
            ))}
          </p>
          <div className="flex flex-wrap items-end gap-3">
            <SelectField
              label="The device comes in as"
              hint={ABOUT[role]}
              value={role}
              onChange={({ target }) => setRole(target.value as Role)}
            >
              {ROLES.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </SelectField>
            <TextField
              label="What you call it"
              hint="to know it in the list below"
              maxLength={40}
              value={name}
              onChange={({ target }) => setName(target.value)}
            />
            <Button kind="main" className="mb-6" onClick={make}>
              Make a pairing code
            </Button>
          </div>
          {problem && <ProblemNote problem={problem} />}
          {pairing && <PairingPicture pairing={pairing} />}
          <Trust />
          <CloseHouse />
        </>
      )}
      <LetIn />
    </section>
  );
}

/** A certificate that a device does not know is warned of, and some browsers then lend no devices. */
function Trust() {
  return (
    <details className="text-[14px]">
      <summary className="cursor-pointer text-ink2">The device warns of the certificate</summary>
      <p className="pt-2 text-ink2">
        This installation made its own authority; no device knows it yet. Load{' '}
        <a href="/api/v1/access/authority" className="text-ink underline underline-offset-4">
          its certificate
        </a>{' '}
        on the device, compare the fingerprint, and install it as trusted in the device’s security settings.
        After that the page opens without a warning, and the browser lends serial ports, Bluetooth and the
        microphone, and keeps the page so that it comes up without any network.
      </p>
    </details>
  );
}
