import { useEffect, useRef } from 'react';
import { callAttention, useAttention } from '../live/attention';
import { useUnread } from '../live/conversations';
import { useFeedsRadio } from '../live/sound-at-page';
import { useLive } from '../live/store';

const TITLE = 'Mistpeak';

/** A message that nobody has read: in the title, at the edge of the screen, and, if it was wished, by a notice or a tone. */
export function AttentionMark() {
  const unread = useUnread();
  const last = useLive(({ messages }) => messages.received.findLast(({ standing }) => standing === 'for me'));
  const how = useAttention((state) => state.how);
  const feedsRadio = useFeedsRadio();
  const before = useRef(unread);
  useEffect(() => {
    document.title = unread === 0 ? TITLE : `(${unread}) ${TITLE}`;
    if (unread > before.current && last) callAttention(`${last.from}: ${last.text}`, how, feedsRadio);
    before.current = unread;
  }, [unread, last, how, feedsRadio]);
  if (unread === 0) return null;
  return (
    <div
      aria-hidden
      data-testid="attention"
      className="pointer-events-none fixed inset-0 z-20 border-x-4 border-look print:hidden"
    />
  );
}
