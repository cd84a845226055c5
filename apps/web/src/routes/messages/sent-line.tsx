import { isOpen } from '@mistpeak/core/messages/entries';
import { INTERNET_SIDE } from '@mistpeak/contract/frame';
import type { OutgoingView } from '@mistpeak/contract/messages';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatClock, formatSeconds } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { rulesOf, useStandingWords } from './standing';
import { Trail } from './trail';

const INK = {
  acknowledged: 'text-proved',
  rejected: 'text-stop',
  'no answer': 'text-stop',
  expired: 'text-stop',
};

/** One message of ours: its words, its trail of tries, how it stands; opened, the way of each try. */
export function SentLine({ message }: { message: OutgoingView }) {
  const nowMs = useNow(1000);
  const settings = useLive((state) => state.messages.settings);
  const words = useStandingWords(message, nowMs);
  const { id, from, text, writtenAtMs, phase } = message;
  const ink = INK[phase.kind as keyof typeof INK] ?? 'text-ink2';
  return (
    <li className="border-t border-line py-2" data-message={id} data-phase={phase.kind}>
      <div className="grid gap-x-5 gap-y-1 md:grid-cols-[minmax(0,1fr)_minmax(0,24rem)]">
        <p className="text-[15px] break-words">
          <span className="mr-2 text-[12.5px] text-ink3">
            <span className="font-mono">{formatClock(writtenAtMs, 'utc').slice(0, 5)}</span> from{' '}
            <span className="font-mono">{from}</span>
            {message.isAutomatic === true && ', by itself'}
          </span>
          <span className="block">{text}</span>
        </p>
        <div>
          <Trail message={message} rules={rulesOf(settings)} nowMs={nowMs} />
          <p className={`text-[13.5px] font-[560] ${ink}`}>{words}</p>
        </div>
      </div>
      <Tries message={message} />
      <OperatorOnly>
        <Commands message={message} />
      </OperatorOnly>
    </li>
  );
}

function Tries({ message }: { message: OutgoingView }) {
  const link = useLive((state) =>
    message.linkId === INTERNET_SIDE
      ? 'the internet side'
      : state.links.find(({ id }) => id === message.linkId)?.settings.name,
  );
  if (message.tries.length === 0) return null;
  const first = message.tries[0]?.atMs ?? 0;
  return (
    <details className="text-[13px] text-ink2">
      <summary className="cursor-pointer py-0.5 max-md:min-h-11">
        {message.tries.length === 1 ? 'The way of its try' : `The ways of its ${message.tries.length} tries`}
      </summary>
      <ol className="pb-1 pl-4">
        {message.tries.map(({ atMs, heardBack }, i) => (
          <li key={atMs}>
            try {i + 1} at <span className="font-mono">{formatClock(atMs, 'utc')}</span>
            {atMs > first && `, ${formatSeconds(atMs - first)} after the first`}, by{' '}
            {link ?? 'a link that is gone'} {message.path === '' ? 'without a path' : `along ${message.path}`}
            :{' '}
            {heardBack.length === 0
              ? 'not heard back'
              : `heard back ${heardBack
                  .map(
                    ({ by, afterMs }) =>
                      `${by === undefined ? 'unrepeated' : `by ${by}`} after ${formatSeconds(afterMs)}`,
                  )
                  .join(', ')}`}
          </li>
        ))}
      </ol>
    </details>
  );
}

function Commands({ message }: { message: OutgoingView }) {
  const { problem, isBusy, attempt } = useAttempt();
  const { id, phase } = message;
  const ask = (what: 'cancel' | 'again'): void =>
    void attempt(() => command('POST', `/messages/${id}/${what}`));
  return (
    <>
      {isOpen(message) ? (
        <Button disabled={isBusy} onClick={() => ask('cancel')}>
          Cancel it
        </Button>
      ) : (
        phase.kind !== 'acknowledged' && (
          <Button disabled={isBusy} onClick={() => ask('again')}>
            Try again
          </Button>
        )
      )}
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}
