import { useEffect, useState } from 'react';
import type { LetterFile, MailMessageView } from '@mistpeak/contract/mail';
import type { MailDesk } from '@mistpeak/contract/mail-session';
import { shownAddress } from '@mistpeak/core/mail/address';
import { answerSubject, quoted } from '@mistpeak/core/mail/queue';
import { command } from '../../api';
import { keepAsking } from '../../live/keep-asking';
import { ProblemNote } from '../../pieces/problem-note';
import type { Problem } from '@mistpeak/contract/failures';
import { LetterForm, type Written } from './letter-form';
import { fileOf } from './letter-files';
import { whenWords } from './words';

export const BLANK: Written = {
  to: '',
  cc: '',
  subject: '',
  text: '',
  files: [],
  beyondLatin1: 'utf-8',
  precedence: 'routine',
  onlyInternet: false,
  after: '',
  from: '',
};

/** id: new · answer-ID · quote-ID · or the letter that is written on. */
export function WriteView({ id, desk }: { id: string; desk: MailDesk }) {
  const [begin, setBegin] = useState<
    { readonly values: Written; readonly known?: MailMessageView; readonly answers?: string } | undefined
  >(id === 'new' ? { values: BLANK } : undefined);
  const [problem, setProblem] = useState<Problem>();
  useEffect(() => {
    if (id === 'new') return;
    const [, how, of] = /^(answer|quote)-(.+)$/.exec(id) ?? [];
    const ask = async (): Promise<typeof begin> => {
      const message = await command<MailMessageView>('GET', `/mail/messages/${of ?? id}`);
      return how === undefined
        ? { values: await written(message), known: message }
        : { values: answered(message, how === 'quote'), answers: message.id };
    };
    return keepAsking(ask, setBegin, setProblem);
  }, [id]);
  if (problem) return <ProblemNote problem={problem} />;
  if (!begin) return <p className="text-ink2">Looking for it …</p>;
  return (
    <LetterForm
      draft={`letter ${id}`}
      desk={desk}
      saved={begin.values}
      known={begin.known}
      answers={begin.answers}
    />
  );
}

async function written(message: MailMessageView): Promise<Written> {
  const files: LetterFile[] = [];
  for (const [i, { name }] of message.fileNames.entries()) {
    const answer = await fetch(`/api/v1/mail/messages/${message.id}/files/${i}`);
    files.push(await fileOf(await answer.blob(), name));
  }
  const cc = message.cc.map(shownAddress).join(', ');
  return {
    to: message.to.map(shownAddress).join(', '),
    cc,
    subject: message.subject,
    text: message.text,
    files,
    beyondLatin1: message.beyondLatin1 ?? 'utf-8',
    precedence: message.precedence,
    onlyInternet: message.onlyInternet,
    after: message.afterMs === undefined ? '' : new Date(message.afterMs).toISOString().slice(0, 16),
    from: message.from,
  };
}

function answered({ from, subject, text, atMs }: MailMessageView, withQuote: boolean): Written {
  return {
    ...BLANK,
    to: shownAddress(from),
    subject: answerSubject(subject),
    text: withQuote ? quoted(text, shownAddress(from), whenWords(atMs)) : '',
  };
}
