import { useState } from 'react';
import {
  BACKUP_TYPE,
  SHORTEST_PASSPHRASE,
  type BackupSummary,
  type BackupTicket,
  type RestoredView,
} from '@mistpeak/contract/backup';
import { command, sendFile } from '../../api';
import { useAttempt } from '../../live/attempt';
import { formatDay } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { Choice } from '../../pieces/choice';
import { TextField } from '../../pieces/field';
import { FileButton } from '../../pieces/file-button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';

/** Everything as one file, and back: on this machine or on another. */
export function BackupView() {
  return (
    <OperatorOnly>
      <div className="grid max-w-[64rem] gap-x-10 gap-y-6 md:grid-cols-2">
        <Keep />
        <Restore />
      </div>
    </OperatorOnly>
  );
}

function Keep() {
  const [withFrames, setWithFrames] = useState(true);
  const [passphrase, setPassphrase] = useState('');
  const { problem, isBusy, attempt } = useAttempt();
  const order = async (): Promise<void> => {
    const { ticket } = await command<BackupTicket>('POST', '/backup', {
      withFrames,
      ...(passphrase === '' ? {} : { passphrase }),
    });
    const link = document.createElement('a');
    link.href = `/api/v1/backup/${ticket}`;
    link.download = `mistpeak-${new Date().toISOString().slice(0, 10)}.backup`;
    link.click();
  };
  return (
    <section aria-label="Keep a copy" className="flex flex-col items-start gap-3">
      <h2>Keep a copy</h2>
      <p className="text-[14px] text-ink2">
        Kit, chains, sheets, links, gateways, mail, messages, sessions, logbook, trips: everything as it is
        now, in one file. Mistpeak goes on meanwhile.
      </p>
      <Choice label="Every packet that was heard, too (most of it)" isOn={withFrames} set={setWithFrames} />
      <TextField
        type="password"
        autoComplete="new-password"
        label="Passphrase for what is secret"
        hint={`Empty: passwords and who is let in are left out. At least ${SHORTEST_PASSPHRASE} characters.`}
        value={passphrase}
        error={problem?.fields?.passphrase}
        onChange={({ target }) => setPassphrase(target.value)}
      />
      <Button kind="main" disabled={isBusy} onClick={() => void attempt(order)}>
        Save the backup
      </Button>
      {problem && !problem.fields && <ProblemNote problem={problem} />}
      <p className="text-[13px] text-ink3">
        Map files and elevation of your own are files already: copy them as they are. Without a passphrase the
        password of the mail account has to be entered again elsewhere.
      </p>
    </section>
  );
}

function Restore() {
  const [summary, setSummary] = useState<BackupSummary>();
  const [passphrase, setPassphrase] = useState('');
  const [restored, setRestored] = useState<RestoredView>();
  const { problem, isBusy, attempt } = useAttempt();
  const take = (file: File): void =>
    void attempt(async () => {
      setRestored(undefined);
      setSummary(undefined);
      setSummary(await sendFile<BackupSummary>('POST', '/backup/file', file, BACKUP_TYPE));
    });
  const restore = async (id: string): Promise<void> => {
    // It may be long: it is given up by nobody.
    const { signal } = new AbortController();
    const order = { id, ...(passphrase === '' ? {} : { passphrase }) };
    setRestored(await command<RestoredView>('POST', '/backup/restore', order, signal));
    setSummary(undefined);
  };
  return (
    <section aria-label="Restore" className="flex flex-col items-start gap-3">
      <h2>Restore</h2>
      <p className="text-[14px] text-ink2">
        On a new computer, or after a loss. The file is read through and checked first; nothing is touched
        before you say so.
      </p>
      <FileButton label="Backup file" accept=".backup" take={take} disabled={isBusy}>
        {isBusy && !summary ? 'Reading it through …' : 'Open a backup …'}
      </FileButton>
      {summary && (
        <div className="flex flex-col items-start gap-3 border-l-[4px] border-look bg-raise px-4 py-3">
          <p>
            A backup of <b className="font-mono">{summary.call || 'nobody'}</b> of {formatDay(summary.atMs)}{' '}
            UTC: {summary.rows} entries, {summary.withFrames ? 'with' : 'without'} the packets heard,{' '}
            {summary.hasSecrets ? 'secrets under a passphrase' : 'without secrets'}. It is whole.
          </p>
          {summary.hasSecrets && (
            <TextField
              type="password"
              autoComplete="off"
              label="Its passphrase"
              hint="empty: the secrets stay out"
              value={passphrase}
              onChange={({ target }) => setPassphrase(target.value)}
            />
          )}
          <p className="text-[14px]">
            What is in this Mistpeak now makes room for it and cannot be brought back; save a backup of it
            first.
          </p>
          <Button kind="stop" disabled={isBusy} onClick={() => void attempt(() => restore(summary.id))}>
            {isBusy ? 'Restoring …' : 'Put it in place of everything here'}
          </Button>
        </div>
      )}
      {restored && (
        <p role="status" className="text-proved">
          {restored.rows} entries are restored
          {restored.leftOut > 0 && `, ${restored.leftOut} of an older form left out`}; secrets:{' '}
          {restored.secrets}. Mistpeak starts again by itself.
        </p>
      )}
      {problem && <ProblemNote problem={problem} detail={Object.values(problem.fields ?? {}).join('; ')} />}
    </section>
  );
}
