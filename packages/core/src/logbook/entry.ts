/** What an entry of the logbook is about. */
export const ENTRY_KINDS = [
  'trial',
  'check',
  'proof',
  'beacon',
  'session',
  'mail',
  'gateway',
  'message',
  'alarm',
  'battery',
  'change',
  'note',
] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];

/** One thing that was tried, measured, changed or written down. ok: whether it did what it should; absent: neither. */
export interface Entry {
  readonly id: string;
  readonly kind: EntryKind;
  readonly atMs: number;
  readonly ok?: boolean;
  /** Of whom or what, as a heading. */
  readonly what: string;
  readonly words: string;
  /** By which it is found again in records elsewhere. */
  readonly tag?: string;
  /** The picture that a note has, by its number. */
  readonly hasPicture?: boolean;
}

/** kinds: all of them where none is named. words: all must stand in it. */
export interface EntryWish {
  readonly kinds: readonly EntryKind[];
  readonly words: string;
  /** Only what failed, or only what went well. */
  readonly ok?: boolean | undefined;
}

export function isWished(entry: Entry, { kinds, words, ok }: EntryWish): boolean {
  if (kinds.length > 0 && !kinds.includes(entry.kind)) return false;
  if (ok !== undefined && entry.ok !== ok) return false;
  const text = [entry.what, entry.words, entry.tag, entry.kind, new Date(entry.atMs).toISOString()]
    .join(' ')
    .toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .every((word) => text.includes(word));
}

/** Newest first; of two at the same time in the order of their numbers, so that pages never overlap. */
export const byTime = (a: Entry, b: Entry): number =>
  b.atMs - a.atMs || (a.id < b.id ? 1 : a.id > b.id ? -1 : 0);
