import { useEffect } from 'react';
import { Link, useParams } from 'react-router';
import { command } from '../../api';
import { useConversations, type Talk } from '../../live/conversations';
import { useIsWatcher } from '../../live/access';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { OperatorOnly } from '../../pieces/operator-only';
import { Composer } from './composer';
import { HeardLine } from './heard-line';
import { SentLine } from './sent-line';
import { answerInWords } from './standing';

/** With whom there were words; the words of one; and a new one. */
export function TalksView() {
  const { with: chosen } = useParams();
  const talks = useConversations();
  const talk = talks.find((one) => one.with === chosen) ?? (chosen === undefined ? talks[0] : undefined);
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[15rem_minmax(0,1fr)]">
      <Talks talks={talks} current={talk?.with ?? chosen} />
      <div className="flex min-w-0 flex-col gap-4">
        <Answer />
        {talk && <Words talk={talk} />}
        <OperatorOnly>
          <Composer key={talk?.with ?? chosen ?? ''} to={talk?.with ?? chosen ?? ''} />
        </OperatorOnly>
      </div>
    </div>
  );
}

/** The page's question, answered in one sentence. */
function Answer() {
  const outgoing = useLive((state) => state.messages.outgoing);
  const nowMs = useNow(1000);
  return (
    <p className="text-[19px] leading-snug font-[620]" role="status">
      {answerInWords(outgoing, nowMs)}
    </p>
  );
}

function Talks({ talks, current }: { talks: readonly Talk[]; current: string | undefined }) {
  const nowMs = useNow(10_000);
  if (talks.length === 0)
    return (
      <p className="text-[14px] text-ink2">
        Nobody has written yet, and nothing was sent. Write to a station that was heard, or put your own
        groups under “Rules”.
      </p>
    );
  return (
    <nav aria-label="With whom" className="flex flex-col max-lg:flex-row max-lg:gap-2 max-lg:overflow-x-auto">
      {talks.map(({ with: name, kind, unread, lastAtMs }) => (
        <Link
          key={name}
          to={`/messages/talks/${encodeURIComponent(name)}`}
          aria-current={name === current ? 'page' : undefined}
          className="flex min-h-9 items-baseline gap-2 border-l-[3px] border-transparent py-1 pl-3 text-[14px] hover:bg-raise aria-[current=page]:border-ink aria-[current=page]:bg-raise max-lg:border-l-0 max-lg:border-b-[3px] max-lg:px-2 max-md:min-h-11"
        >
          <b className={`font-mono ${unread > 0 ? 'font-[700]' : 'font-[520]'}`}>{name}</b>
          {kind === 'group' && <span className="text-[12.5px] text-ink3">group</span>}
          {unread > 0 && (
            <span className="rounded-full bg-look px-1.5 text-[12px] font-[650] text-sheet">
              {unread} new
            </span>
          )}
          <span className="ml-auto text-[12.5px] whitespace-nowrap text-ink3">
            {formatAge(nowMs - lastAtMs)}
          </span>
        </Link>
      ))}
    </nav>
  );
}

function Words({ talk }: { talk: Talk }) {
  const isWatcher = useIsWatcher();
  const { with: name, unread, lastAtMs } = talk;
  useEffect(() => {
    // What a watcher sees the operator has not read.
    if (unread > 0 && !isWatcher)
      void command('PUT', '/messages/read', { conversation: name, atMs: lastAtMs }).catch(() => undefined);
  }, [unread, isWatcher, name, lastAtMs]);
  return (
    <section aria-label={`Words with ${name}`} className="flex flex-col">
      <Facts name={name} />
      <ol className="flex flex-col">
        {talk.lines.map((line) =>
          line.kind === 'sent' ? (
            <SentLine key={line.message.id} message={line.message} />
          ) : (
            <HeardLine key={line.message.id} message={line.message} />
          ),
        )}
      </ol>
    </section>
  );
}

/** How that station answers. */
function Facts({ name }: { name: string }) {
  const one = useLive((state) => state.messages.correspondents.find(({ call }) => call === name));
  return (
    <h2 className="flex flex-wrap items-baseline gap-x-3 pb-1">
      <span className="font-mono">{name}</span>
      {one && (
        <span className="text-[13px] font-[450] text-ink2">
          acknowledged {one.acknowledged} of {one.ended}
          {one.usualMs === undefined
            ? ''
            : `, usually after ${formatAge(one.usualMs)}, ${Math.round((one.firstTryRate ?? 0) * 100)} % at the first try`}
        </span>
      )}
    </h2>
  );
}
