import type { AddressEntry, Box, MailRow } from '@mistpeak/contract/mail';
import type { MailDesk, MailRunView } from '@mistpeak/contract/mail-session';
import { useAsked, type Asked } from './asked';
import { useLive } from './store';

/** What is asked of the server, and asked anew whenever something of the mail has changed. */
export const useAskedMail = <Value>(path: string | undefined): Asked<Value> =>
  useAsked<Value>(
    path,
    useLive((state) => state.mail.revision),
  );

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
