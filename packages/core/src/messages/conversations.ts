import type { Standing } from './entries.js';

/** What a conversation is made of, as far as it is sorted by it. */
export interface SentLine {
  readonly id: string;
  readonly to: string;
  readonly number?: string;
  readonly writtenAtMs: number;
}
export interface HeardLine {
  readonly id: string;
  readonly standing: Standing;
  readonly from: string;
  readonly to: string;
  readonly text: string;
  readonly atMs: number;
}

export type Line<Sent, Got> =
  | { readonly kind: 'sent'; readonly atMs: number; readonly message: Sent }
  | { readonly kind: 'heard'; readonly atMs: number; readonly message: Got };

export interface Conversation<Sent, Got> {
  /** The other station, or the group. */
  readonly with: string;
  readonly kind: 'station' | 'group';
  /** The oldest first. */
  readonly lines: readonly Line<Sent, Got>[];
  readonly lastAtMs: number;
  readonly unread: number;
}

/** Under this name it is kept up to when the bulletins were read. */
export const BULLETINS = 'bulletins';

const isBulletin = (to: string): boolean => /^(BLN[0-9A-Z]|NWS[-_])/.test(to);

/** With whom there were words, the latest first; readUpTo: by name. What is not for us never counts as unread. */
export function sortConversations<Sent extends SentLine, Got extends HeardLine>(
  sent: readonly Sent[],
  heard: readonly Got[],
  readUpTo: Readonly<Record<string, number>>,
  groups: readonly string[],
): Conversation<Sent, Got>[] {
  const all = new Map<string, Line<Sent, Got>[]>();
  const add = (name: string, line: Line<Sent, Got>): void =>
    void all.set(name, [...(all.get(name) ?? []), line]);
  for (const message of sent)
    if (!isBulletin(message.to)) add(message.to, { kind: 'sent', atMs: message.writtenAtMs, message });
  for (const message of heard) {
    const name = otherOf(message);
    if (name !== undefined) add(name, { kind: 'heard', atMs: message.atMs, message });
  }
  return [...all]
    .map(([name, lines]) => {
      const sorted = [...lines].sort((a, b) => a.atMs - b.atMs);
      const kind: Conversation<Sent, Got>['kind'] = groups.includes(name) ? 'group' : 'station';
      return {
        with: name,
        kind,
        lines: sorted,
        lastAtMs: sorted.at(-1)?.atMs ?? 0,
        unread: lines.filter((line) => isUnread(line, readUpTo[name] ?? 0)).length,
      };
    })
    .sort((a, b) => b.lastAtMs - a.lastAtMs);
}

/** Bulletins as they stand: of each sender and mark the newest, the latest first. */
export function sortBulletins<Got extends HeardLine>(heard: readonly Got[]): Got[] {
  const newest = new Map<string, Got>();
  for (const one of heard) {
    if (one.standing !== 'bulletin') continue;
    const mark = `${one.from} ${one.to}`;
    const known = newest.get(mark);
    if (!known || known.atMs <= one.atMs) newest.set(mark, one);
  }
  return [...newest.values()].sort((a, b) => b.atMs - a.atMs);
}

function otherOf({ standing, from, to }: HeardLine): string | undefined {
  if (standing === 'bulletin') return undefined;
  return standing === 'group' || standing === 'from another of mine' ? to : from;
}

function isUnread<Sent, Got extends HeardLine>(line: Line<Sent, Got>, readUpToMs: number): boolean {
  return line.kind === 'heard' && line.message.standing !== 'from another of mine' && line.atMs > readUpToMs;
}
