import type { ReactNode } from 'react';
import type { Problem } from '@mistpeak/contract/failures';
import type { LinkView } from '@mistpeak/contract/link';
import { SECOND_RECEIVER } from '../../live/sound-at-page';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import { LockOf } from '../../pieces/transmit-lock';
import { SecondReceiver } from './second-receiver';

/** What every check of one's own sound needs: a link that is armed, a second receiver, a button to begin and one to stop. */
export function OwnPacketsFrame({
  link,
  isSending,
  problem,
  begin,
  stop,
  action,
  isReported = false,
  children,
}: {
  link: LinkView | undefined;
  isSending: boolean;
  problem: Problem | undefined;
  begin: () => void;
  stop: () => void;
  action: string;
  /** Somebody else listens and tells. */
  isReported?: boolean;
  children?: ReactNode;
}) {
  const lock = useLive((state) => (link ? state.locks.get(link.id) : undefined));
  const hears = SECOND_RECEIVER.use((state) => state.phase === 'listening');
  if (!link)
    return <p className="text-[14px] text-ink2">First open a link: what it sends is what is judged.</p>;
  return (
    <>
      {!isReported && <SecondReceiver />}
      {children}
      {!lock?.armed && (
        <div className="flex flex-wrap items-center gap-2 text-[14px] text-ink2">
          Test packets bear your call; the transmitter of {link.settings.name} must be armed.{' '}
          <LockOf link={link} />
        </div>
      )}
      {problem && <ProblemNote problem={problem} />}
      <div>
        {isSending ? (
          <Button kind="stop" onClick={stop}>
            Stop
          </Button>
        ) : (
          <Button kind="main" disabled={!lock?.armed || !(hears || isReported)} onClick={begin}>
            {action}
          </Button>
        )}
      </div>
    </>
  );
}
