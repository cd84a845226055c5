import { callWithoutSsid } from '../callsign/callsign.js';

/** What is kept in the mailbox. Calls without SSID: a mailbox is for people. */
export interface Letter {
  readonly number: number;
  readonly from: string;
  /** A call, or ALL. */
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly atMs: number;
  /** By whom it is for. */
  readonly isRead: boolean;
}

/** Who may read what is for somebody else. */
export const READERS = ['addressee', 'everybody'] as const;
export type Readers = (typeof READERS)[number];

export const FOR_ALL = 'ALL';

/** What this caller may see, unread ones first, then the newest. */
export function lettersFor(letters: readonly Letter[], caller: string, readers: Readers): readonly Letter[] {
  return letters
    .filter((letter) => mayRead(letter, caller, readers))
    .sort((a, b) => Number(isNew(b, caller)) - Number(isNew(a, caller)) || b.number - a.number);
}

export function mayRead({ from, to }: Letter, caller: string, readers: Readers): boolean {
  const call = callWithoutSsid(caller);
  return readers === 'everybody' || to === FOR_ALL || to === call || from === call;
}

/** Whoever it is for may delete it, and whoever wrote it. */
export function mayKill({ from, to }: Letter, caller: string): boolean {
  const call = callWithoutSsid(caller);
  return to === call || from === call;
}

export const isNew = ({ to, isRead }: Letter, caller: string): boolean =>
  to === callWithoutSsid(caller) && !isRead;

/** Letters are kept as they came: one octet a character. */
export const octetsOf = ({ subject, text }: Pick<Letter, 'subject' | 'text'>): number =>
  subject.length + text.length;
