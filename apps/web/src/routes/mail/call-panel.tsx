import { useState } from 'react';
import { Link } from 'react-router';
import type { MailDesk } from '@mistpeak/contract/mail-session';
import type { MailProfile } from '@mistpeak/contract/mail-settings';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { SelectField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { LockOf } from '../../pieces/transmit-lock';
import { resultWords, WAY_WORDS } from './words';

/** By which way, to whom, in what order: and go. */
export function CallPanel({
  desk,
  profile,
  choose,
}: {
  desk: MailDesk;
  profile: MailProfile | undefined;
  choose: (id: string) => void;
}) {
  const { problem, isBusy, attempt } = useAttempt();
  const [password, setPassword] = useState('');
  const link = useLive((state) => state.links.find(({ id }) => id === profile?.linkId));
  const lock = useLive((state) => state.locks.get(profile?.linkId ?? ''));
  if (!profile)
    return (
      <p className="text-ink2">
        First say by which way mail goes:{' '}
        <Link to="/mail/ways" className="underline">
          a gateway by packet, a service by TCP, or a station
        </Link>
        .
      </p>
    );
  const { account } = desk;
  const isOverAir = profile.way !== 'tcp';
  const mustAsk = profile.way !== 'peer' && account.state !== 'known';
  const start = (nothingQueued: boolean): void =>
    void attempt(async () => {
      await command('POST', '/mail/sessions', {
        profileId: profile.id,
        ...(password === '' ? {} : { password }),
        ...(nothingQueued ? { nothingQueued } : {}),
      });
      setPassword('');
    });
  const whom = profile.way === 'tcp' ? (profile.host ?? '') : (profile.gateways[0]?.call ?? '');
  return (
    <OperatorOnly>
      <form
        aria-label="Start a session"
        noValidate
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          start(false);
        }}
      >
        <SelectField
          label="By which way"
          value={profile.id}
          hint={`${WAY_WORDS[profile.way]}, as ${profile.from}`}
          onChange={({ target }) => choose(target.value)}
        >
          {desk.settings.profiles.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
        {isOverAir && <TryList desk={desk} profile={profile} />}
        {mustAsk && (
          <TextField
            label={
              account.state === 'locked'
                ? 'Password, for this session (the kept one is locked)'
                : 'Password of the mail account, for this session'
            }
            type="password"
            autoComplete="off"
            hint="It answers a challenge here and is never sent. Leave it empty where the account has none yet."
            value={password}
            onChange={({ target }) => setPassword(target.value)}
          />
        )}
        {problem && <ProblemNote problem={problem} />}
        <div className="flex flex-wrap items-center gap-3">
          <Button type="submit" kind="main" disabled={isBusy}>
            {profile.exchanges === 'send'
              ? 'Call'
              : profile.exchanges === 'receive'
                ? 'Call for mail with'
                : 'Send and receive with'}{' '}
            {whom}
          </Button>
          <Button disabled={isBusy} onClick={() => start(true)}>
            First connection, nothing queued
          </Button>
        </div>
        {isOverAir && link && !lock?.armed && (
          <div className="flex flex-wrap items-center gap-2 text-[13.5px] text-ink2">
            The transmitter is locked: <LockOf link={link} />
          </div>
        )}
        <p className="text-[13px] text-ink3">
          {isOverAir
            ? 'Radio mail can be read by everybody: no encryption, no business traffic. It identifies you by its frames and its greeting; defer to local rules. Not a substitute for emergency calls.'
            : 'By the internet, not by radio: it proves the account, and nothing of the radio.'}
        </p>
      </form>
    </OperatorOnly>
  );
}

/** In the order in which they are called, each with what it last came to. */
function TryList({ desk, profile }: { desk: MailDesk; profile: MailProfile }) {
  const nowMs = useNow(10_000);
  return (
    <ol aria-label="In this order" className="text-[14px]">
      {profile.gateways.map(({ call, frequencyMHz, via, note }, i) => {
        const last = desk.history.find(({ gateway }) => gateway === call.toUpperCase())?.attempts[0];
        return (
          <li
            key={`${call} ${i}`}
            className="grid grid-cols-[1.4rem_7.5rem_5.5rem_minmax(0,1fr)] items-baseline gap-x-2 border-t border-line py-1 first:border-t-0 max-md:grid-cols-[1.4rem_7.5rem_minmax(0,1fr)]"
          >
            <span className="text-ink3">{i + 1}</span>
            <span className="font-mono">{call}</span>
            <span className="font-mono">
              {frequencyMHz === undefined ? '' : `${frequencyMHz.toFixed(3)}`}
            </span>
            <span className="min-w-0 truncate text-ink2 max-md:col-span-3 max-md:col-start-2">
              {last ? `${resultWords(last)}, ${formatAge(nowMs - last.atMs)} ago` : note || 'never called'}
              {via !== '' && ` · via ${via}`}
            </span>
          </li>
        );
      })}
    </ol>
  );
}
