import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Box, MailRow } from '@mistpeak/contract/mail';
import type { MailDesk } from '@mistpeak/contract/mail-session';
import { LETTERS_TYPE } from '@mistpeak/contract/mail-files';
import { shownAddress } from '@mistpeak/core/mail/address';
import { sendFile } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useLetters } from '../../live/mail-desk';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { SearchField } from '../../pieces/search-field';
import { octetWords, whenWords } from './words';

const NAMES: readonly (readonly [Box, string])[] = [
  ['inbox', 'Came'],
  ['sent', 'Sent'],
  ['outbox', 'To go'],
  ['drafts', 'Drafts'],
];

/** The server gives so many at once. */
const SHOWN = 100;

/** All letters of one box, in threads, found by any word in them. box: a box, or `in-NAME` for a folder. */
export function LettersView({ box: shown, desk }: { box: string; desk: MailDesk }) {
  const [words, setWords] = useState('');
  const folder = shown.startsWith('in-') ? shown.slice(3) : '';
  const box: Box = folder === '' ? (NAMES.find(([name]) => name === shown)?.[0] ?? 'inbox') : 'folder';
  const [before, setBefore] = useState<number>();
  const { value: rows, problem } = useLetters(box, folder, words, before);
  const navigate = useNavigate();
  const go = (where: string): void => void navigate(`/mail/letters/${where}`);
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-center gap-2">
        {NAMES.map(([name, label]) => (
          <Button key={name} kind={box === name ? 'main' : 'plain'} onClick={() => go(name)}>
            {label} ({desk.counts[name]})
          </Button>
        ))}
        {desk.folders.map((name) => (
          <Button key={name} kind={folder === name ? 'main' : 'plain'} onClick={() => go(`in-${name}`)}>
            {name}
          </Button>
        ))}
        <SearchField
          label="Find"
          value={words}
          set={setWords}
          placeholder="any words in it"
          className="ml-auto"
        />
      </div>
      {problem && <ProblemNote problem={problem} />}
      {rows?.length === 0 && (
        <p className="text-ink2">
          {words === '' ? 'No letters here.' : `No letter here has all of “${words}”.`}
        </p>
      )}
      <ul aria-label="Letters">
        {threads(rows ?? []).map((thread) => (
          <Thread key={thread[0]?.id} rows={thread} />
        ))}
      </ul>
      <div className="flex gap-3">
        {before !== undefined && <Button onClick={() => setBefore(undefined)}>The newest</Button>}
        {rows?.length === SHOWN && <Button onClick={() => setBefore(rows.at(-1)?.atMs)}>Older ones</Button>}
      </div>
      <Files box={box} folder={folder} />
    </div>
  );
}

/** Newest first, those of one thread together. */
function threads(rows: readonly MailRow[]): MailRow[][] {
  const by = new Map<string, MailRow[]>();
  for (const row of rows) {
    const key = row.thread === '' ? row.id : row.thread;
    by.set(key, [...(by.get(key) ?? []), row]);
  }
  return [...by.values()];
}

function Thread({ rows }: { rows: readonly MailRow[] }) {
  return (
    <li className="border-t border-line first:border-t-0">
      {rows.map((row, i) => (
        <Link
          key={row.id}
          to={row.box === 'drafts' || row.box === 'outbox' ? `/mail/write/${row.id}` : `/mail/read/${row.id}`}
          className={`grid grid-cols-[8.5rem_minmax(0,1fr)_9.5rem] items-baseline gap-x-4 py-1.5 text-[14.5px] hover:bg-raise max-md:grid-cols-[minmax(0,1fr)_auto] ${i > 0 ? 'pl-5' : ''}`}
        >
          <span className="truncate">
            {row.box === 'sent' ? row.to.map(shownAddress).join(', ') : shownAddress(row.from)}
          </span>
          <span
            className={`min-w-0 truncate max-md:col-span-2 max-md:row-start-2 ${row.isRead ? '' : 'font-[680]'}`}
          >
            {row.subject || '(no subject)'}
            {!row.isRead && <span className="sr-only"> (unread)</span>}
            <span className="font-[400] text-ink3">
              {row.answeredAtMs !== undefined && ' · answered'}
              {row.files > 0 && ` · ${row.files} file${row.files === 1 ? '' : 's'}`} ·{' '}
              {octetWords(row.octets)}
              {row.note !== undefined && ` · ${row.note}`}
            </span>
          </span>
          <span className="text-right font-mono text-[13px] text-ink2">{whenWords(row.atMs)}</span>
        </Link>
      ))}
    </li>
  );
}

function Files({ box, folder }: { box: Box; folder: string }) {
  const { problem, attempt } = useAttempt();
  const [took, setTook] = useState(false);
  return (
    <div className="flex flex-wrap items-center gap-4 border-t border-line pt-3 text-[14px]">
      <a
        href={`/api/v1/mail/export?box=${box}&folder=${encodeURIComponent(folder)}`}
        className="underline"
        download
      >
        Keep this box as an mbox file
      </a>
      <OperatorOnly>
        <label className="cursor-pointer underline focus-within:outline-2 focus-within:outline-proved">
          Take letters out of .eml or mbox files
          <input
            type="file"
            accept=".eml,.mbox,.mbx"
            className="sr-only"
            onChange={({ target }) => {
              const [file] = target.files ?? [];
              if (file)
                void attempt(() => sendFile('POST', '/mail/import?folder=Imported', file, LETTERS_TYPE)).then(
                  setTook,
                );
            }}
          />
        </label>
      </OperatorOnly>
      {took && <span role="status">Taken into the folder Imported.</span>}
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}
