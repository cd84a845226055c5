import { useState } from 'react';
import { judgeKnob, type Finding } from '@mistpeak/core/levels/receive-check';
import type { Receiver } from '../../live/sound-at-page';
import { useAttempt } from '../../live/attempt';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import { useCheck, WANTED, type CheckResult } from './check';
import { keepResult } from './keep-result';
import { VerdictCard } from './verdict-card';

/** N packets or T seconds, then one verdict in words, the number behind it and what to turn. */
export function ReceiveCheck({ receiver, linkId }: { receiver: Receiver; linkId: string | undefined }) {
  const phase = receiver.use((state) => state.phase);
  const [results, setResults] = useState<readonly CheckResult[]>([]);
  const { problem, attempt } = useAttempt();
  const [isSaidOff, setSaidOff] = useState(false);
  const check = useCheck(receiver, (result) => {
    setResults((all) => [result, ...all].slice(0, 2));
    setSaidOff(false);
    const { sentence, number, turn, isInWindow, levelDbfs } = result.verdict;
    void attempt(() =>
      keepResult({
        check: 'receive',
        words: sentence,
        number,
        turn,
        isInWindow,
        ...(linkId && { linkId }),
        ...(levelDbfs !== undefined && { levelDbfs }),
      }),
    );
  });
  const sayOff = (): void =>
    void attempt(() =>
      keepResult({
        check: 'radio was off',
        words: 'The radio was off since the level was measured: its volume knob is its switch.',
        number: '',
        turn: 'Set the volume, and check again.',
        ...(linkId && { linkId }),
      }),
    ).then((went) => setSaidOff(went));
  const [last, before] = results;
  return (
    <section aria-label="Receive check" className="flex flex-col gap-3">
      <h2>Receive check</h2>
      {check.running ? (
        <>
          <p className="font-mono text-[1.05rem]">
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
          {last && <VerdictCard verdict={last.verdict} />}
          {last && before && <Change last={last} before={before} />}
          {last && linkId === undefined && (
            <p className="text-[13.5px] text-ink2">
              No link has this sound card: the result is kept, and lights nothing on the Bench.
            </p>
          )}
          {problem && <ProblemNote problem={problem} />}
          <div className="flex flex-wrap gap-2">
            <Button
              kind={last ? 'plain' : 'main'}
              disabled={phase !== 'listening' && phase !== 'reading'}
              onClick={check.begin}
            >
              {last ? 'Check again' : 'Check what is heard'}
            </Button>
            {linkId && (
              <Button disabled={isSaidOff} onClick={sayOff}>
                {isSaidOff ? 'Noted: it was off' : 'The radio was off since'}
              </Button>
            )}
          </div>
        </>
      )}
    </section>
  );
}

/** Before and after, where both were measured; and whether the knob had any effect. */
function Change({ last, before }: { last: CheckResult; before: CheckResult }) {
  const [finding, setFinding] = useState<Finding | 'follows'>();
  const [is, was] = [last.verdict.levelDbfs, before.verdict.levelDbfs];
  const by = is !== undefined && was !== undefined ? is - was : undefined;
  return (
    <div className="flex flex-col gap-1.5 text-[13.5px] text-ink2">
      {by !== undefined && (
        <p className="font-mono">
          before {dbfs(was)}, now {dbfs(is)} ({by < 0 ? '−' : '+'}
          {Math.abs(by).toFixed(1)} dB)
        </p>
      )}
      {finding === undefined ? (
        <Button
          className="self-start"
          onClick={() => setFinding(judgeKnob(before.heard, last.heard) ?? 'follows')}
        >
          I turned the knob between the two
        </Button>
      ) : finding === 'follows' ? (
        <p>The level follows the knob.</p>
      ) : (
        <p>
          <b className="font-[620] text-ink">{finding.words}</b>{' '}
          <span className="font-mono">{finding.number}.</span> {finding.turn}
        </p>
      )}
    </div>
  );
}

const dbfs = (value: number | undefined): string => `${(value ?? 0).toFixed(0).replace('-', '−')} dBFS`;
