import { useState } from 'react';
import { compare, comparisonWords, success, type Success } from '@mistpeak/core/levels/compare';
import type { Receiver } from '../../live/sound-at-page';
import { Button } from '../../pieces/button';
import { TextField } from '../../pieces/field';
import { useCheck, type CheckResult } from './check';
import { keepResult } from './keep-result';
import { told, VerdictCard } from './verdict-card';

type Side = 'a' | 'b';

/** One turn of one side. */
const TURN = { packets: 15, seconds: 60 } as const;
const PAIRS = [
  ['cable', 'microphone at the speaker'],
  ['noise reduction on', 'noise reduction off'],
  ['squelch 0', 'squelch 1'],
] as const;

/** Two ways of hearing side by side, by what each decodes of the packets that it notices. */
export function CompareCheck({ receiver, linkId }: { receiver: Receiver; linkId: string | undefined }) {
  const phase = receiver.use((state) => state.phase);
  const [names, setNames] = useState<Record<Side, string>>({ a: PAIRS[0][0], b: PAIRS[0][1] });
  const [heard, setHeard] = useState<Record<Side, readonly CheckResult[]>>({ a: [], b: [] });
  const [side, setSide] = useState<Side>('a');
  const check = useCheck(
    receiver,
    (result) => {
      const all = { ...heard, [side]: [...heard[side], result] };
      setHeard(all);
      if (all.a.length === 0 || all.b.length === 0) return;
      const words = comparisonWords(compare(sum(all.a), sum(all.b)), names);
      void keepResult({
        check: 'cable or speaker',
        words,
        number: `${share(sum(all.a))} and ${share(sum(all.b))}`,
        turn: '',
        ...(linkId && { linkId }),
      }).catch(() => undefined);
    },
    TURN,
  );
  const comparison = compare(sum(heard.a), sum(heard.b));
  const hasBoth = heard.a.length > 0 && heard.b.length > 0;
  const listen = (to: Side): void => {
    setSide(to);
    check.begin();
  };
  return (
    <section aria-label="Cable or speaker" className="flex flex-col gap-3">
      <h2>Cable or speaker?</h2>
      <p className="text-[14px] text-ink2">
        Listen with the one, change over, listen with the other; each as often as you like. Any two ways can
        be compared: noise reduction on and off, squelch 0 and 1.
      </p>
      {(['a', 'b'] as const).map((one) => (
        <div key={one} className="grid grid-cols-[1fr_auto] items-end gap-2">
          <TextField
            label={one === 'a' ? 'The one' : 'The other'}
            list="pairs"
            value={names[one]}
            hint={<Bar success={sum(heard[one])} />}
            onChange={({ target }) => setNames({ ...names, [one]: target.value })}
          />
          <Button
            className="mb-6"
            disabled={phase !== 'listening' || check.running !== undefined}
            onClick={() => listen(one)}
          >
            Listen with it
          </Button>
        </div>
      ))}
      <datalist id="pairs">
        {PAIRS.flat().map((name) => (
          <option key={name}>{name}</option>
        ))}
      </datalist>
      {check.running && (
        <p className="font-mono">
          {names[side]}: {check.running.packets} of {TURN.packets} packets, {check.running.seconds.toFixed(0)}{' '}
          of {TURN.seconds} s <Button onClick={check.finish}>That is enough</Button>
        </p>
      )}
      {hasBoth && (
        <VerdictCard
          verdict={told(
            comparison.needed === undefined,
            comparisonWords(comparison, names),
            `${share(comparison.a)} and ${share(comparison.b)}`,
          )}
        />
      )}
      {hasBoth && (
        <Button className="self-start" onClick={() => setHeard({ a: [], b: [] })}>
          Begin anew
        </Button>
      )}
    </section>
  );
}

function sum(results: readonly CheckResult[]): Success {
  const carriers = results.reduce((all, { heard }) => all + heard.carriers, 0);
  const unread = results.reduce((all, { heard }) => all + heard.unread, 0);
  return success(carriers - unread, carriers);
}

const share = ({ read, of, from, to }: Success): string =>
  of === 0 ? 'nothing heard' : `${read} of ${of} (${Math.round(100 * from)} to ${Math.round(100 * to)} %)`;

/** The share with its bounds. */
function Bar({ success: one }: { success: Success }) {
  return (
    <span className="flex items-center gap-2 font-mono text-ink2">
      <svg viewBox="0 0 100 10" className="h-2.5 w-28" aria-hidden preserveAspectRatio="none">
        <rect width="100" height="10" fill="var(--line)" />
        {one.of > 0 && (
          <>
            <rect x={100 * one.from} width={100 * (one.to - one.from)} height="10" fill="var(--r3)" />
            <rect x={100 * one.share - 1} width="2" height="10" fill="var(--ink)" />
          </>
        )}
      </svg>
      {share(one)}
    </span>
  );
}
