import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { Gathering, type Heard } from '@mistpeak/core/levels/heard';
import { judgeReceive, type ReceiveVerdict } from '@mistpeak/core/levels/receive-check';
import type { SoundReport } from '@mistpeak/link/watched-tnc';
import type { Receiver } from '../../live/sound-at-page';
import { Button } from '../../pieces/button';
import { VerdictCard } from './verdict-card';

/** A check ends with so many packets, or after so long, whichever comes first. */
const WANTED = { packets: 20, seconds: 60 } as const;

export interface CheckResult {
  readonly verdict: ReceiveVerdict;
  readonly heard: Heard;
  readonly atMs: number;
}

export interface RunningCheck {
  readonly seconds: number;
  readonly packets: number;
}

/** Gathers what the receiver hears until there is enough for a verdict. */
export function useCheck(
  receiver: Receiver,
  done: (result: CheckResult) => void,
  wanted: { readonly packets: number; readonly seconds: number } = WANTED,
) {
  const [running, setRunning] = useState<RunningCheck>();
  const gathering = useRef<Gathering>(undefined);
  const isRunning = running !== undefined;
  const finish = (): void => {
    const heard = gathering.current?.heard;
    gathering.current = undefined;
    setRunning(undefined);
    if (heard && heard.seconds > 0) done({ verdict: judgeReceive(heard), heard, atMs: Date.now() });
  };
  const take = useEffectEvent(({ news, shape }: SoundReport): void => {
    gathering.current ??= new Gathering(shape);
    gathering.current.take(news);
    const { seconds, packets } = gathering.current.heard;
    setRunning({ seconds, packets: packets.length });
    if (seconds >= wanted.seconds || packets.length >= wanted.packets) finish();
  });
  useEffect(() => (isRunning ? receiver.heard.listen(take) : undefined), [receiver, isRunning]);
  return { running, begin: () => setRunning({ seconds: 0, packets: 0 }), finish };
}

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
