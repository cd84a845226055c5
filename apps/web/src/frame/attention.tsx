import { useEffect, useRef } from 'react';
import { callAttention, useAttention } from '../live/attention';
import { useUnread } from '../live/conversations';
import { useFeedsRadio } from '../live/sound-at-page';
import { useLive } from '../live/store';

const TITLE = 'Mistpeak';

/** A message that nobody has read: in the title, at the edge of the screen, and, if it was wished, by a notice or a tone. */
export function AttentionMark() {
  const messages = useUnread();
  const mail = useLive((state) => state.mail.unread);
  const unread = messages + mail;
  const last = useLive(({ messages }) => messages.received.findLast(({ standing }) => standing === 'for me'));
  const how = useAttention((state) => state.how);
  const feedsRadio = useFeedsRadio();
  const before = useRef({ messages, mail });
  useEffect(() => {
    document.title = unread === 0 ? TITLE : `(${unread}) ${TITLE}`;
    if (messages > before.current.messages && last)
      callAttention(`${last.from}: ${last.text}`, how, feedsRadio);
    // What is in it is for whom it is for: a notice says only that it came.
    if (mail > before.current.mail) callAttention('New mail has come.', how, feedsRadio);
    before.current = { messages, mail };
  }, [unread, messages, mail, last, how, feedsRadio]);
  if (unread === 0) return null;
  return (
    <div
      aria-hidden
      data-testid="attention"
      className="pointer-events-none fixed inset-0 z-20 border-x-4 border-look print:hidden"
    />
  );
}
