import { useState } from 'react';
import type { AccountPassword, MailSettings, MailSettingsView } from '@mistpeak/contract/mail-settings';
import type { MailDesk } from '@mistpeak/contract/mail-session';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useLive } from '../../live/store';
import { useNow } from '../../live/now';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { Choice } from '../../pieces/choice';
import { DraftNote } from '../../pieces/draft-note';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { LinkField } from '../../pieces/link-field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';

/** Who I am for the mail service, what I allow, and whether stations may call here. */
export function AccountView({ desk, again }: { desk: MailDesk; again: () => void }) {
  return (
    <OperatorOnly>
      <div className="grid max-w-[66rem] gap-x-10 gap-y-6 lg:grid-cols-2">
        <Password desk={desk} again={again} />
        <Rules desk={desk} again={again} />
      </div>
    </OperatorOnly>
  );
}

const KEEPINGS: Readonly<Record<AccountPassword['keeping'], string>> = {
  asked: 'asked each time, kept nowhere',
  folder: 'kept encrypted; its key lies in the data folder of this machine',
  passphrase: 'kept encrypted; its key is a passphrase that you type after each start',
};

function Password({ desk, again }: { desk: MailDesk; again: () => void }) {
  const { account } = desk;
  const { problem, isBusy, attempt } = useAttempt();
  const [keeping, setKeeping] = useState(account.keeping);
  const [password, setPassword] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const [times, setTimes] = useState(0);
  const nowMs = useNow(30_000);
  const call = useLive((state) => state.operator?.call ?? '');
  const fields = problem?.fields ?? {};
  const act = (task: () => Promise<unknown>): void => {
    setTimes(times + 1);
    void attempt(async () => {
      await task();
      setPassword('');
      setPassphrase('');
      again();
    });
  };
  const address = desk.settings.domain === '' ? call : `${call}@${desk.settings.domain}`;
  return (
    <section aria-label="Account" className="flex flex-col gap-3 border-t-[1.5px] border-ink pt-2">
      <h2>Account</h2>
      <p className="text-[15px]">
        <span className="font-mono">{address}</span>:{' '}
        {account.state === 'known'
          ? 'the password is known here'
          : account.state === 'locked'
            ? 'the password is locked'
            : 'no password is kept'}
        {account.provedAtMs !== undefined &&
          `, and a login with it was accepted ${formatAge(nowMs - account.provedAtMs)} ago`}
        .
      </p>
      {account.cameInClear && (
        <p className="border-l-[3px] border-look pl-3 text-[14px]">
          This password came in clear over the air. Change it where your service takes changes, then give the
          new one here; the next login proves it.
        </p>
      )}
      {account.state === 'none' && (
        <p className="text-[14px] text-ink2">
          A new account takes days, so begin with it. Its first session needs no password: the service sends
          one as a letter. Over the air a password is never said; it only answers a challenge.
        </p>
      )}
      {account.state === 'locked' && account.keeping === 'passphrase' ? (
        <form
          className="flex flex-col gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            act(() => command('POST', `/mail/account/unlock?n=${times}`, { passphrase }));
          }}
        >
          <TextField
            label="Passphrase"
            type="password"
            autoComplete="off"
            value={passphrase}
            error={fields.passphrase}
            onChange={({ target }) => setPassphrase(target.value)}
          />
          <div className="flex gap-3">
            <Button type="submit" kind="main" disabled={isBusy}>
              Unlock it
            </Button>
            <Button onClick={() => act(() => command('DELETE', '/mail/account'))}>Forget the password</Button>
          </div>
        </form>
      ) : (
        <form
          className="flex flex-col gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            act(() =>
              command('PUT', `/mail/account?n=${times}`, {
                keeping,
                ...(password === '' ? {} : { password }),
                ...(passphrase === '' ? {} : { passphrase }),
              }),
            );
          }}
        >
          <SelectField
            label="How the password is kept"
            value={keeping}
            error={fields.keeping}
            onChange={({ target }) => setKeeping(target.value as AccountPassword['keeping'])}
          >
            {Object.entries(KEEPINGS).map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </SelectField>
          {keeping !== 'asked' && (
            <TextField
              label={account.state === 'known' ? 'New password (empty: as it is)' : 'Password'}
              type="password"
              autoComplete="off"
              value={password}
              error={fields.password}
              onChange={({ target }) => setPassword(target.value)}
            />
          )}
          {keeping === 'passphrase' && (
            <TextField
              label="Passphrase"
              type="password"
              autoComplete="off"
              hint="at least 8 characters; nobody can find it for you"
              value={passphrase}
              error={fields.passphrase}
              onChange={({ target }) => setPassphrase(target.value)}
            />
          )}
          <div className="flex gap-3">
            <Button type="submit" kind="main" disabled={isBusy}>
              Save the password
            </Button>
            {account.state !== 'none' && (
              <Button onClick={() => act(() => command('DELETE', '/mail/account'))}>
                Forget the password
              </Button>
            )}
          </div>
        </form>
      )}
      {problem && !problem.fields && <ProblemNote problem={problem} />}
    </section>
  );
}

function Rules({ desk, again }: { desk: MailDesk; again: () => void }) {
  const { values, set, wasBegun, drop } = useDraft<MailSettingsView>('mail rules', desk.settings);
  const { problem, isBusy, attempt } = useAttempt();
  const change = (more: Partial<MailSettings>): void => set({ ...values, ...more });
  const { listening } = values;
  const fields = problem?.fields ?? {};
  return (
    <form
      noValidate
      aria-label="Rules of mail"
      className="flex flex-col gap-3 border-t-[1.5px] border-ink pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(async () => {
          const { version: _, profiles: __, modems: ___, radios: ____, templates: _____, ...rules } = values;
          await command('PUT', '/mail/settings', {
            ...desk.settings,
            ...rules,
            version: desk.settings.version,
          });
          drop();
          again();
        });
      }}
    >
      {wasBegun && <DraftNote drop={drop} />}
      <h2>Addresses and limits</h2>
      <TextField
        label="The service’s own domain"
        hint="what stands behind the @ of your address"
        mono
        value={values.domain}
        error={fields.domain}
        onChange={({ target }) => change({ domain: target.value })}
      />
      <TextField
        label="Further addresses of mine"
        hint="asked for in every session, with commas"
        mono
        value={values.auxiliary.join(', ')}
        error={fields.auxiliary}
        onChange={({ target }) =>
          change({
            auxiliary: target.value
              .toUpperCase()
              .split(/[,\s]+/)
              .filter((one) => one !== ''),
          })
        }
      />
      <div className="grid gap-3 sm:grid-cols-2">
        <NumberField
          label="Most minutes of one letter"
          value={values.mostMinutes}
          error={fields.mostMinutes}
          set={(mostMinutes) => change({ mostMinutes: mostMinutes ?? 15 })}
        />
        <NumberField
          label="Ask me above so many octets"
          hint="empty: take everything"
          value={values.askOverOctets}
          error={fields.askOverOctets}
          set={(askOverOctets) => {
            const { askOverOctets: _, ...rest } = values;
            set(askOverOctets === undefined ? rest : { ...rest, askOverOctets });
          }}
        />
      </div>
      <Choice
        label="Watchers may read the mail"
        isOn={values.watchersMayRead}
        set={(watchersMayRead) => change({ watchersMayRead })}
      />
      <h2 className="mt-2">Stations may call here</h2>
      <p className="text-[14px] text-ink2">
        Mail from station to station, without a service:{' '}
        {desk.listeningClosedBecause === undefined
          ? 'calls are taken.'
          : `no calls are taken, ${desk.listeningClosedBecause}.`}
      </p>
      <Choice
        label="Take calls of stations that have mail"
        isOn={listening.isOn}
        set={(isOn) => change({ listening: { ...listening, isOn } })}
      />
      <div className="grid gap-3 sm:grid-cols-2">
        <LinkField
          label="Link"
          value={listening.linkId ?? ''}
          error={fields.listening}
          set={(linkId) => change({ listening: { ...listening, linkId } })}
        >
          {listening.linkId === undefined && <option value="">choose</option>}
        </LinkField>
        <NumberField
          label="On SSID"
          hint="0 is usual between stations"
          value={listening.ssid}
          set={(ssid) => change({ listening: { ...listening, ssid: ssid ?? 0 } })}
        />
      </div>
      <Choice
        label="My local rules allow a station that answers while nobody is there"
        isOn={listening.allowsAutomatic}
        set={(allowsAutomatic) => change({ listening: { ...listening, allowsAutomatic } })}
      />
      {problem && <ProblemNote problem={problem} detail={Object.values(fields).join('; ')} />}
      <div>
        <Button type="submit" kind="main" disabled={isBusy}>
          Save addresses and limits
        </Button>
      </div>
    </form>
  );
}
