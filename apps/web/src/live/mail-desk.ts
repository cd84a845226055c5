import { useCallback, useEffect, useState } from 'react';
import type { Problem } from '@mistpeak/contract/failures';
import type { AddressEntry, Box, MailRow } from '@mistpeak/contract/mail';
import type { MailDesk, MailRunView } from '@mistpeak/contract/mail-session';
import { command, problemOf } from '../api';
import { useLive } from './store';

interface Asked<Value> {
  readonly value: Value | undefined;
  readonly problem: Problem | undefined;
  readonly again: () => void;
}

/** What is asked of the server, and asked anew whenever something of the mail has changed. */
export function useAskedMail<Value>(path: string | undefined): Asked<Value> {
  const revision = useLive((state) => state.mail.revision);
  const connection = useLive((state) => state.connection);
  const [answer, setAnswer] = useState<{ path: string; value?: Value; problem?: Problem }>();
  const [times, setTimes] = useState(0);
  useEffect(() => {
    if (path === undefined || connection !== 'open') return;
    let isStill = true;
    command<Value>('GET', path)
      .then((value) => isStill && setAnswer({ path, value }))
      .catch((error: unknown) => isStill && setAnswer({ path, problem: problemOf(error) }));
    return () => {
      isStill = false;
    };
  }, [path, revision, connection, times]);
  const fits = answer?.path === path ? answer : undefined;
  return { value: fits?.value, problem: fits?.problem, again: useCallback(() => setTimes((n) => n + 1), []) };
}

export const useMailDesk = (): Asked<MailDesk> => useAskedMail<MailDesk>('/mail');

/** before: ms since 1970, for the page after that one. */
export function useLetters(box: Box, folder = '', words = '', before?: number): Asked<readonly MailRow[]> {
  const query = new URLSearchParams({
    box,
    folder,
    words,
    ...(before === undefined ? {} : { before: String(before) }),
  });
  return useAskedMail<readonly MailRow[]>(`/mail/messages?${query.toString()}`);
}

export const useAddresses = (): readonly AddressEntry[] =>
  useAskedMail<readonly AddressEntry[]>('/mail/addresses').value ?? [];

/** The one that is under way, or the last one; called by us. */
export const useLastRun = (): MailRunView | undefined =>
  useLive(({ mailRuns }) => mailRuns.findLast(({ phase }) => phase !== 'over') ?? mailRuns.at(-1));
