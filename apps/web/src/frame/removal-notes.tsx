import { BACK_FOR_MS, type RemovalView } from '@mistpeak/contract/removals';
import { command } from '../api';
import { useIsWatcher } from '../live/access';
import { useAttempt } from '../live/attempt';
import { useNow } from '../live/now';
import { useLive } from '../live/store';
import { Button } from '../pieces/button';
import { ProblemNote } from '../pieces/problem-note';

/** What was just removed, on every page and in every window: for a minute it can be brought back. */
export function RemovalNotes() {
  const removals = useLive((state) => state.removals);
  const isWatcher = useIsWatcher();
  if (removals.length === 0 || isWatcher) return null;
  return (
    <div
      role="status"
      aria-label="Just removed"
      className="fixed right-5 bottom-4 z-20 flex max-w-[26rem] flex-col gap-1.5 max-md:right-2 max-md:bottom-18 max-md:left-2"
    >
      {removals.map((removal) => (
        <RemovalNote key={removal.id} removal={removal} />
      ))}
    </div>
  );
}

function RemovalNote({ removal: { id, words, untilMs } }: { removal: RemovalView }) {
  const nowMs = useNow();
  const { problem, attempt } = useAttempt();
  const seconds = Math.min(BACK_FOR_MS / 1000, Math.max(0, Math.ceil((untilMs - nowMs) / 1000)));
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 rounded-[9px] border-[1.5px] border-ink bg-raise px-3 py-2 text-[14px]">
      <span className="min-w-0 flex-1">
        Removed: <b className="font-[640]">{words}</b>
      </span>
      <Button onClick={() => void attempt(() => command('POST', `/removals/${id}/back`))}>
        Bring it back <span className="font-mono text-ink2">{seconds} s</span>
      </Button>
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}
