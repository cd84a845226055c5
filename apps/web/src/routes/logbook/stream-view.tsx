import { useDeferredValue, useState } from 'react';
import { ENTRY_KINDS, type EntryKind } from '@mistpeak/core/logbook/entry';
import type { StreamPage } from '@mistpeak/contract/logbook';
import { command } from '../../api';
import { useAsked } from '../../live/asked';
import { useAttempt } from '../../live/attempt';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { SelectField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { SearchField } from '../../pieces/search-field';
import { Days } from './entry-row';
import { KIND_WORDS } from './kind-words';
import { NoteForm } from './note-form';

/** Everything that was tried, newest first, found by kind, words, and how it went. */
export function StreamView() {
  const [kinds, setKinds] = useState<readonly EntryKind[]>([]);
  const [ok, setOk] = useState('');
  const [words, setWords] = useState('');
  const sought = useDeferredValue(words.trim());
  const query = new URLSearchParams({
    ...(kinds.length === 0 ? {} : { kinds: kinds.join(',') }),
    ...(ok === '' ? {} : { ok }),
    words: sought,
  }).toString();
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap items-end gap-x-5 gap-y-2">
        <SearchField
          isAmongFields
          label="Search"
          value={words}
          set={setWords}
          placeholder="call, part, mark, date"
        />
        <div className="w-40">
          <SelectField label="How it went" value={ok} onChange={({ target }) => setOk(target.value)}>
            <option value="">either way</option>
            <option value="yes">well</option>
            <option value="no">failed</option>
          </SelectField>
        </div>
        <a href="/api/v1/logbook/contacts.adi" download className="pb-1.5 text-[14px] underline">
          Contacts as ADIF
        </a>
      </div>
      <div role="group" aria-label="Kinds" className="flex flex-wrap gap-1.5">
        {ENTRY_KINDS.map((kind) => {
          const isOn = kinds.includes(kind);
          return (
            <button
              key={kind}
              type="button"
              aria-pressed={isOn}
              onClick={() => setKinds(isOn ? kinds.filter((one) => one !== kind) : [...kinds, kind])}
              className={`min-h-8 border-b-[2.5px] px-2 text-[14px] max-md:min-h-11 ${isOn ? 'border-ink font-[620]' : 'border-line text-ink2'}`}
            >
              {KIND_WORDS[kind]}
            </button>
          );
        })}
      </div>
      <OperatorOnly>
        <NoteForm />
      </OperatorOnly>
      <Found key={query} query={query} isAll={kinds.length === 0 && ok === '' && sought === ''} />
    </div>
  );
}

/** The first page is asked for anew as things happen; further ones are added to it by hand. */
function Found({ query, isAll }: { query: string; isAll: boolean }) {
  const revision = useLive(({ logbookRevision, trials, removals }) =>
    [logbookRevision, trials.length, removals.length].join(' '),
  );
  const { value: first, problem } = useAsked<StreamPage>(`/logbook?${query}`, revision);
  const [more, setMore] = useState<readonly StreamPage[]>([]);
  const { problem: noMore, isBusy, attempt } = useAttempt();
  if (problem) return <ProblemNote problem={problem} />;
  if (!first) return <p className="text-ink2">Reading …</p>;
  const next = (more.at(-1) ?? first).next;
  const entries = [first, ...more].flatMap((page) => page.entries);
  const further = async (): Promise<void> => {
    if (!next) return;
    const page = await command<StreamPage>(
      'GET',
      `/logbook?${query}&beforeMs=${next.beforeMs}&beforeId=${encodeURIComponent(next.beforeId)}`,
    );
    setMore([...more, page]);
  };
  return (
    <div className="max-w-[64rem]">
      {entries.length === 0 && !next && (
        <p className="text-ink2">
          {isAll
            ? 'Nothing has been tried yet. What you try, send and change is written down here by itself.'
            : 'Nothing of that in the record.'}
        </p>
      )}
      <Days entries={entries} />
      {next && (
        <Button className="mt-3" disabled={isBusy} onClick={() => void attempt(further)}>
          Further back
        </Button>
      )}
      {noMore && <ProblemNote problem={noMore} />}
    </div>
  );
}
