import type { Receiver } from '../../live/sound-at-page';
import { Button } from '../../pieces/button';
import { useCheck, WANTED, type CheckResult } from './check';
import { VerdictCard } from './verdict-card';

/** N packets or T seconds, then one verdict in words, the number behind it and what to turn. */
export function ReceiveCheck({
  receiver,
  results,
  done,
}: {
  receiver: Receiver;
  results: readonly CheckResult[];
  done: (result: CheckResult) => void;
}) {
  const phase = receiver.use((state) => state.phase);
  const check = useCheck(receiver, done);
  const [last, before] = results;
  return (
    <section aria-label="Receive check" className="flex flex-col gap-3 border-t-[1.5px] border-ink pt-2.5">
      <h2>Receive check</h2>
      {check.running ? (
        <>
          <p className="font-mono text-[1.05rem]" aria-live="off">
            {check.running.packets} of {WANTED.packets} packets · {check.running.seconds.toFixed(0)} of{' '}
            {WANTED.seconds} s
          </p>
          <progress
            className="h-1.5 w-full accent-(--proved)"
            aria-label="How far the check is"
            max={1}
            value={Math.max(check.running.packets / WANTED.packets, check.running.seconds / WANTED.seconds)}
          />
          <p className="text-[13.5px] text-ink2">Leave the knob alone meanwhile.</p>
          <div>
            <Button onClick={check.finish}>Judge what was heard so far</Button>
          </div>
        </>
      ) : (
        <>
          {!last && (
            <p className="text-[14px] text-ink2">
              Listens to {WANTED.packets} packets or for {WANTED.seconds} s, and says what to turn. Squelch
              open, volume about the middle.
            </p>
          )}
          {last && <VerdictCard result={last} />}
          {last && before && <Change last={last} before={before} />}
          <div>
            <Button
              kind={last ? 'plain' : 'main'}
              disabled={phase !== 'listening' && phase !== 'reading'}
              onClick={check.begin}
            >
              {last ? 'Check again' : 'Check what is heard'}
            </Button>
          </div>
        </>
      )}
    </section>
  );
}

/** Before and after, where both were measured. */
function Change({ last, before }: { last: CheckResult; before: CheckResult }) {
  const [is, was] = [last.verdict.levelDbfs, before.verdict.levelDbfs];
  if (is === undefined || was === undefined) return null;
  const by = is - was;
  return (
    <p className="font-mono text-[13.5px] text-ink2">
      before {was.toFixed(0).replace('-', '−')} dBFS, now {is.toFixed(0).replace('-', '−')} dBFS (
      {by < 0 ? '−' : '+'}
      {Math.abs(by).toFixed(1)} dB)
    </p>
  );
}
