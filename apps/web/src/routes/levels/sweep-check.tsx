import { lazy, Suspense, useState } from 'react';
import { judgeSweep, type SweepStep } from '@mistpeak/core/levels/sweep';
import type { Receiver } from '../../live/sound-at-page';
import { Button } from '../../pieces/button';
import { TextField } from '../../pieces/field';
import { Table } from '../../pieces/table';
import { useCheck } from './check';
import { keepResult } from './keep-result';
import { told, VerdictCard } from './verdict-card';

const SweepChart = lazy(() => import('./sweep-chart').then((module) => ({ default: module.SweepChart })));

const TURN = { packets: 10, seconds: 45 } as const;

/** Success against the position of the knob; the middle of the good range is recommended. */
export function SweepCheck({ receiver, linkId }: { receiver: Receiver; linkId: string | undefined }) {
  const phase = receiver.use((state) => state.phase);
  const [steps, setSteps] = useState<readonly SweepStep[]>([]);
  const [position, setPosition] = useState('1');
  const check = useCheck(
    receiver,
    ({ heard, verdict: { levelDbfs } }) => {
      const step: SweepStep = {
        position,
        carriers: heard.carriers,
        read: heard.carriers - heard.unread,
        ...(levelDbfs !== undefined && { levelDbfs }),
      };
      const all = [...steps.filter((one) => one.position !== position), step].sort((a, b) =>
        a.position.localeCompare(b.position, 'en', { numeric: true }),
      );
      setSteps(all);
      const next = Number(position) + 1;
      if (Number.isFinite(next)) setPosition(String(next));
      const { words, best } = judgeSweep(all);
      if (best !== undefined)
        void keepResult({
          check: 'sweep',
          words,
          number: all.map((one) => `${one.position}: ${one.read}/${one.carriers}`).join(', '),
          turn: '',
          ...(linkId && { linkId }),
        }).catch(() => undefined);
    },
    TURN,
  );
  const verdict = judgeSweep(steps);
  return (
    <section aria-label="Level sweep" className="flex flex-col gap-3">
      <h2>Level sweep</h2>
      <p className="text-[14px] text-ink2">
        Set the knob, name its position as you will find it again, and listen; then the next one. On a
        handheld the knob is its switch as well: after a power cycle you need that name.
      </p>
      <div className="grid grid-cols-[8rem_auto] items-end gap-2">
        <TextField
          label="Position"
          mono
          value={position}
          onChange={({ target }) => setPosition(target.value.slice(0, 20))}
        />
        <Button
          className="mb-1 justify-self-start"
          disabled={phase !== 'listening' || check.running !== undefined || position.trim() === ''}
          onClick={check.begin}
        >
          Listen at this position
        </Button>
      </div>
      {check.running && (
        <p className="font-mono">
          {check.running.packets} of {TURN.packets} packets, {check.running.seconds.toFixed(0)} of{' '}
          {TURN.seconds} s <Button onClick={check.finish}>That is enough</Button>
        </p>
      )}
      {steps.length > 0 && (
        <>
          <Suspense fallback={<div className="h-48" />}>
            <SweepChart verdict={verdict} />
          </Suspense>
          <VerdictCard verdict={told(verdict.best !== undefined, verdict.words)} />
          <Table columns={['Position', 'Decoded', 'Level']}>
            {verdict.steps.map(({ position: at, read, carriers, levelDbfs }) => (
              <tr key={at} className="border-t border-line font-mono">
                <th className="py-1 font-[500]">{at}</th>
                <td>
                  {read} of {carriers}
                </td>
                <td>{levelDbfs === undefined ? '–' : `${levelDbfs.toFixed(0).replace('-', '−')} dBFS`}</td>
              </tr>
            ))}
          </Table>
          <Button className="self-start" onClick={() => setSteps([])}>
            Begin anew
          </Button>
        </>
      )}
    </section>
  );
}
