import { useState } from 'react';
import { median } from '@mistpeak/core/levels/heard';
import {
  besselWords,
  judgeTransmit,
  stepOf,
  type StepState,
  type TransmitStep,
} from '@mistpeak/core/levels/transmit-check';
import { isSound, type LinkView } from '@mistpeak/contract/link';
import { USUAL_SOUND_SETUP } from '@mistpeak/contract/sound';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { SECOND_RECEIVER } from '../../live/sound-at-page';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import { SelectField } from '../../pieces/field';
import { Table } from '../../pieces/table';
import { keepResult } from './keep-result';
import { useOwnPackets } from './own-packets';
import { OwnPacketsFrame } from './own-packets-frame';
import { told, VerdictCard } from './verdict-card';

/** From the top down, as a VOX lets go from above. */
const STEPS_DBFS = [-6, -12, -18, -24, -30] as const;
const PACKETS = 2;
const STATE_WORDS: Record<StepState, string> = {
  'not keyed': 'not keyed',
  broken: 'keyed, not read whole',
  quiet: 'keyed but quiet',
  clean: 'clean',
  limited: 'too loud: it grows no more',
};

/** What another operator can tell of a step. */
const REPORTS = ['nothing', 'a packet, not read', 'all, read'] as const;
type Report = (typeof REPORTS)[number];

function reportedStep(
  report: Report,
  { sent, sentDbfs }: { readonly sent: number; readonly sentDbfs: number },
): TransmitStep {
  return {
    sent,
    sentDbfs,
    noticed: report === 'nothing' ? 0 : sent,
    decoded: report === 'all, read' ? sent : 0,
  };
}

/** Packets at falling steps while a second receiver listens: which level keys, is clean, and sounds like others. */
export function TransmitCheck({ link }: { link: LinkView | undefined }) {
  const call = useLive((state) => (link ? state.locks.get(link.id)?.call : undefined));
  const own = useOwnPackets(link);
  const [steps, setSteps] = useState<readonly TransmitStep[]>([]);
  const [width, setWidth] = useState<'wide' | 'narrow'>('wide');
  const [input, setInput] = useState<'flat' | 'emphasised'>('emphasised');
  const [isReported, setReported] = useState(false);
  const [asked, setAsked] = useState<{ readonly dbfs: number; readonly answer: (report: Report) => void }>();
  const ask = (dbfs: number): Promise<Report> =>
    new Promise((resolve) =>
      setAsked({
        dbfs,
        answer: (report) => {
          setAsked(undefined);
          resolve(report);
        },
      }),
    );
  const { problem, attempt } = useAttempt();
  const sound = link && isSound(link.settings) ? (link.settings.sound ?? USUAL_SOUND_SETUP) : undefined;
  const use = (levelDbfs: number): void =>
    void attempt(() =>
      command('PUT', `/links/${link?.id}`, {
        ...link?.settings,
        version: link?.version,
        sound: { ...sound, levelDbfs },
      }),
    );
  const isVox = link?.settings.sound?.keying === 'vox';
  const others = (): number | undefined =>
    median(
      SECOND_RECEIVER.heard.packets
        .filter(({ transmitter }) => transmitter !== call)
        .map(({ levelDbfs }) => levelDbfs),
    );
  const run = async (): Promise<void> => {
    if (!link || !call) return;
    setSteps([]);
    const done: TransmitStep[] = [];
    for (const level of isSound(link.settings) ? STEPS_DBFS : [undefined]) {
      const one = await own.send(level === undefined ? 3 : PACKETS, level);
      if (!one) return;
      const sentAt = { sent: one.sent, sentDbfs: level ?? 0 };
      const step = isReported
        ? reportedStep(await ask(sentAt.sentDbfs), sentAt)
        : one.heard && stepOf(one.heard, { call, ...sentAt });
      if (!step) return;
      done.push(step);
      setSteps([...done]);
    }
    const { words, turn, adviseDbfs } = judgeTransmit(done, { othersDbfs: others(), isVox });
    await keepResult({
      check: 'transmit',
      words,
      number: done.map((one) => `${one.sentDbfs}: ${one.decoded}/${one.sent}`).join(', '),
      turn,
      linkId: link.id,
      ...(adviseDbfs !== undefined && { levelDbfs: adviseDbfs }),
    }).catch(() => undefined);
  };
  const othersDbfs = others();
  const verdict = steps.length > 0 ? judgeTransmit(steps, { othersDbfs, isVox }) : undefined;
  return (
    <section aria-label="Transmit check" className="flex flex-col gap-3">
      <h2>Transmit check</h2>
      <OwnPacketsFrame
        {...own}
        link={link}
        begin={() => void run()}
        isReported={isReported}
        action={link && isSound(link.settings) ? `Send ${STEPS_DBFS.length} steps` : 'Send three packets'}
      />
      <label className="flex items-center gap-2 text-[13.5px] text-ink2">
        <input
          type="checkbox"
          className="accent-(--proved)"
          checked={isReported}
          disabled={own.isSending}
          onChange={({ target }) => setReported(target.checked)}
        />
        another operator listens and tells me
      </label>
      {asked && (
        <div
          role="group"
          aria-label="What the other operator heard"
          className="flex flex-wrap items-center gap-2"
        >
          <span>Sent at {dbfs(asked.dbfs)}. The other heard:</span>
          {REPORTS.map((report) => (
            <Button key={report} onClick={() => asked.answer(report)}>
              {report}
            </Button>
          ))}
        </div>
      )}
      {verdict && (
        <>
          <Table columns={['Sent at', 'Read', 'Heard at', 'Judged']}>
            {verdict.steps.map(({ sentDbfs, sent, decoded, heardDbfs, state }) => (
              <tr key={sentDbfs} className="border-t border-line align-baseline">
                <th className="py-1 font-mono font-[500]">
                  {link && isSound(link.settings) ? dbfs(sentDbfs) : 'as it is'}
                </th>
                <td className="font-mono">
                  {decoded} of {sent}
                </td>
                <td className="font-mono">{heardDbfs === undefined ? '–' : dbfs(heardDbfs)}</td>
                <td>{STATE_WORDS[state]}</td>
              </tr>
            ))}
          </Table>
          {!own.isSending && (
            <>
              <VerdictCard
                verdict={told(
                  verdict.adviseDbfs !== undefined,
                  verdict.words,
                  othersDbfs === undefined
                    ? 'no other station to compare with'
                    : `others at ${dbfs(othersDbfs)}`,
                  verdict.turn,
                )}
              />
              {problem && <ProblemNote problem={problem} />}
              {sound && link && verdict.adviseDbfs !== undefined && (
                <Button
                  className="self-start"
                  disabled={sound.levelDbfs === verdict.adviseDbfs}
                  onClick={() => use(verdict.adviseDbfs ?? sound.levelDbfs)}
                >
                  {sound.levelDbfs === verdict.adviseDbfs
                    ? 'The link sends so'
                    : `Let the link send at ${dbfs(verdict.adviseDbfs)}`}
                </Button>
              )}
            </>
          )}
        </>
      )}
      <details className="text-[14px]">
        <summary className="cursor-pointer text-ink2">
          Deviation in kilohertz, and single-sideband sets
        </summary>
        <div className="grid grid-cols-2 gap-3 pt-2">
          <SelectField
            label="Channel"
            value={width}
            onChange={({ target }) => setWidth(target.value as typeof width)}
          >
            <option value="wide">25 kHz, wide</option>
            <option value="narrow">12.5 kHz, narrow</option>
          </SelectField>
          <SelectField
            label="Audio goes into"
            value={input}
            onChange={({ target }) => setInput(target.value as typeof input)}
          >
            <option value="emphasised">the microphone input</option>
            <option value="flat">a flat data input</option>
          </SelectField>
        </div>
        <p className="pt-2 text-ink2">{besselWords(width, input === 'emphasised')}</p>
        <p className="pt-2 text-ink2">
          Single sideband: practitioners differ. One school raises the level until the ALC just moves; the
          other stays below any ALC, which is cleaner. More than a little ALC costs spectrum in either.
        </p>
      </details>
    </section>
  );
}

const dbfs = (value: number): string => `${value.toFixed(0).replace('-', '−')} dBFS`;
