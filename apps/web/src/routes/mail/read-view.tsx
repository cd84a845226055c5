import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { MailMessageView } from '@mistpeak/contract/mail';
import type { MailDesk } from '@mistpeak/contract/mail-session';
import { shownAddress } from '@mistpeak/core/mail/address';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useIsWatcher } from '../../live/access';
import { useAskedMail } from '../../live/mail-desk';
import { Button } from '../../pieces/button';
import { SelectField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { octetWords, whenWords } from './words';

/** One letter, over the whole page. */
export function ReadView({ id, desk }: { id: string; desk: MailDesk }) {
  const { value: letter, problem } = useAskedMail<MailMessageView>(`/mail/messages/${id}`);
  const isWatcher = useIsWatcher();
  const isRead = letter?.isRead ?? true;
  useEffect(() => {
    if (!isRead && !isWatcher)
      void command('PUT', `/mail/messages/${id}/read`, { isRead: true }).catch(() => undefined);
  }, [id, isRead, isWatcher]);
  if (problem) return <ProblemNote problem={problem} />;
  if (!letter) return <p className="text-ink2">Opening it …</p>;
  return (
    <article className="flex max-w-[52rem] flex-col gap-3">
      <h2 className="text-[1.35rem]">{letter.subject || '(no subject)'}</h2>
      <dl className="grid grid-cols-[5rem_minmax(0,1fr)] gap-x-3 text-[14.5px]">
        <Row name="From" value={shownAddress(letter.from)} />
        <Row name="To" value={letter.to.map(shownAddress).join(', ')} />
        {letter.cc.length > 0 && <Row name="Copy to" value={letter.cc.map(shownAddress).join(', ')} />}
        <Row
          name={letter.box === 'sent' ? 'Sent' : 'Came'}
          value={`${whenWords(letter.atMs)} UTC · ${octetWords(letter.octets)}${letter.note === undefined ? '' : ` · ${letter.note}`}`}
        />
      </dl>
      {letter.holdsPassword && <FirstPassword letter={letter} desk={desk} />}
      {/position report/i.test(letter.subject) && letter.box === 'sent' && (
        <p className="text-[14px] text-ink2">
          It was accepted by the gateway; whether the service has published it is seen on its map only.
        </p>
      )}
      <p className="border-y border-line py-4 text-[15.5px] whitespace-pre-wrap">{letter.text}</p>
      {letter.fileNames.length > 0 && (
        <ul aria-label="Files" className="text-[14.5px]">
          {letter.fileNames.map(({ name, octets }, i) => (
            <li key={i}>
              <a href={`/api/v1/mail/messages/${id}/files/${i}`} download className="underline">
                {name}
              </a>{' '}
              <span className="text-ink3">{octetWords(octets)}</span>
            </li>
          ))}
        </ul>
      )}
      <Acts letter={letter} desk={desk} />
      <details className="text-[13.5px]">
        <summary className="cursor-pointer text-ink2">All its headers</summary>
        <pre className="mt-1 font-mono whitespace-pre-wrap">
          {letter.headers.map(([name, value]) => `${name}: ${value}`).join('\n')}
        </pre>
      </details>
    </article>
  );
}

function Row({ name, value }: { name: string; value: string }) {
  return (
    <>
      <dt className="text-ink3">{name}</dt>
      <dd className="min-w-0 break-words">{value}</dd>
    </>
  );
}

function Acts({ letter, desk }: { letter: MailMessageView; desk: MailDesk }) {
  const { problem, isBusy, attempt } = useAttempt();
  const [folder, setFolder] = useState('');
  const navigate = useNavigate();
  const move = (box: string, name?: string): void =>
    void attempt(() =>
      command('POST', `/mail/messages/${letter.id}/move?v=${letter.version}`, {
        box,
        ...(name === undefined ? {} : { folder: name }),
      }),
    );
  return (
    <OperatorOnly>
      <div className="flex flex-wrap items-center gap-3">
        <Button kind="main" onClick={() => void navigate(`/mail/write/answer-${letter.id}`)}>
          Answer
        </Button>
        <Button onClick={() => void navigate(`/mail/write/quote-${letter.id}`)}>Answer with its text</Button>
        <Button
          onClick={() =>
            void navigate('/gateways/add', {
              state: { letter: { name: letter.subject || letter.mid, text: letter.text } },
            })
          }
        >
          Look for gateways in it
        </Button>
        <a href={`/api/v1/mail/messages/${letter.id}/eml`} download className="text-[14px] underline">
          Keep as .eml
        </a>
        <Button
          onClick={() =>
            void attempt(async () => {
              await command('PUT', `/mail/messages/${letter.id}/read`, { isRead: false });
              void navigate('/mail/satchel');
            })
          }
        >
          Mark as unread
        </Button>
        <Button
          kind="stop"
          disabled={isBusy}
          onClick={() =>
            void attempt(async () => {
              await command('DELETE', `/mail/messages/${letter.id}`);
              void navigate('/mail/letters/inbox');
            })
          }
        >
          Remove it
        </Button>
      </div>
      <details className="text-[14px]">
        <summary className="cursor-pointer text-ink2">
          {letter.folder === undefined ? 'Put it into a folder' : `It lies in ${letter.folder}`}
        </summary>
        <div className="flex flex-wrap items-end gap-3 pt-2">
          {desk.folders.length > 0 && (
            <SelectField label="Folder" value={folder} onChange={({ target }) => setFolder(target.value)}>
              <option value="">a new one</option>
              {desk.folders.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </SelectField>
          )}
          {!desk.folders.includes(folder) && (
            <TextField label="New folder" value={folder} onChange={({ target }) => setFolder(target.value)} />
          )}
          <Button disabled={folder.trim() === ''} onClick={() => move('folder', folder)}>
            Put it there
          </Button>
          {letter.box === 'folder' && <Button onClick={() => move('inbox')}>Back to what came</Button>}
        </div>
      </details>
      {problem && <ProblemNote problem={problem} detail={Object.values(problem.fields ?? {}).join('; ')} />}
    </OperatorOnly>
  );
}

/** A first password has come in clear. */
function FirstPassword({ letter, desk }: { letter: MailMessageView; desk: MailDesk }) {
  const { problem, attempt, isBusy } = useAttempt();
  const { account } = desk;
  return (
    <div className="flex flex-col gap-2 border-l-[3px] border-look pl-3 text-[14.5px]">
      <p>
        <strong>A password came in clear.</strong> Everybody who listened could read it. Take it for your
        account, then change it where your service takes changes, and give the new one under{' '}
        <Link to="/mail/account" className="underline">
          Account
        </Link>
        : the next login proves it.
      </p>
      {account.state === 'known' ? (
        <p>{account.cameInClear ? 'It is in use now: change it soon.' : 'Another password is in use.'}</p>
      ) : (
        <OperatorOnly>
          <div>
            <Button
              disabled={isBusy}
              onClick={() =>
                void attempt(() =>
                  command('PUT', '/mail/account', { keeping: 'folder', fromMessage: letter.id }),
                )
              }
            >
              Take it for the account
            </Button>
          </div>
        </OperatorOnly>
      )}
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}
