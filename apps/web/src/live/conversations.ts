import { useMemo } from 'react';
import {
  BULLETINS,
  sortBulletins,
  sortConversations,
  type Conversation,
} from '@mistpeak/core/messages/conversations';
import type { OutgoingView, ReceivedView } from '@mistpeak/contract/messages';
import { useLive } from './store';

export type Talk = Conversation<OutgoingView, ReceivedView>;

/** With whom there were words, the latest first. */
export function useConversations(): readonly Talk[] {
  const { outgoing, received, readUpTo, settings } = useLive((state) => state.messages);
  return useMemo(
    () => sortConversations(outgoing, received, readUpTo, settings.groups),
    [outgoing, received, readUpTo, settings.groups],
  );
}

export function useBulletins(): { bulletins: readonly ReceivedView[]; unread: number } {
  const received = useLive((state) => state.messages.received);
  const readUpToMs = useLive((state) => state.messages.readUpTo[BULLETINS] ?? 0);
  return useMemo(() => {
    const bulletins = sortBulletins(received);
    return { bulletins, unread: bulletins.filter(({ atMs }) => atMs > readUpToMs).length };
  }, [received, readUpToMs]);
}

/** Messages for us that nobody has read. */
export function useUnread(): number {
  const conversations = useConversations();
  return conversations.reduce((sum, { unread }) => sum + unread, 0);
}
