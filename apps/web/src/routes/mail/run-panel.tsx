import { useState } from 'react';
import { Link } from 'react-router';
import type { MailRunDetail, MailRunView } from '@mistpeak/contract/mail-session';
import { shownAddress } from '@mistpeak/core/mail/address';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useAskedMail } from '../../live/mail-desk';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { SessionClimb } from './session-climb';
import { Share } from './share';
import { octetWords, phaseWords, resultWords, waitWords } from './words';

/** A session as it goes: its climb, the messages both ways, and what the operator may do. */
export function RunPanel({ run }: { run: MailRunView }) {
  const { problem, attempt } = useAttempt();
  const [asks, setAsks] = useState(0);
  const isOver = run.phase === 'over';
  const act = (what: string): void => {
    setAsks(asks + 1);
    void attempt(() => command('POST', `/mail/sessions/${run.id}/${what}?n=${asks}`));
  };
  return (
    <div className="flex flex-col gap-3">
      <SessionClimb run={run} />
      <p role="status" className="text-[15px]">
        {phaseWords(run)}
        {run.isStopping && !isOver && ' It ends at the next turn; stop again to cut it off.'}
      </p>
      {isOver && run.outcome && !run.outcome.ok && (
        <div className="border-l-[3px] border-look pl-3 text-[14px]">
          {run.outcome.said !== undefined && <p className="font-mono">{run.outcome.said}</p>}
          <p>{run.outcome.means}</p>
          <p>
            <strong>Try:</strong> {run.outcome.try}
          </p>
        </div>
      )}
      {run.attempts.length > 1 && (
        <ol aria-label="Tried" className="text-[13.5px] text-ink2">
          {run.attempts.slice(0, isOver ? undefined : -1).map((one, i) => (
            <li key={i}>
              <span className="font-mono">{one.gateway}</span>: {resultWords(one)}
            </li>
          ))}
        </ol>
      )}
      <Carried run={run} />
      {run.askedAbout.length > 0 && <Asking run={run} />}
      {run.modem && !isOver && (
        <p className="text-[13.5px] text-ink2">
          Modem program: {run.modem.isBusy ? 'the channel is busy' : 'the channel is free'}
          {run.modem.waitingOctets !== undefined && `, ${run.modem.waitingOctets} octets wait in it`}
        </p>
      )}
      {problem && <ProblemNote problem={problem} />}
      <OperatorOnly>
        <div className="flex flex-wrap gap-3">
          {run.phase === 'tuning' && run.tuning?.by === 'hand' && (
            <Button kind="main" onClick={() => act('tuned')}>
              The radio is on {run.tuning.frequencyMHz.toFixed(3)} MHz
            </Button>
          )}
          {!isOver && (
            <Button kind="stop" onClick={() => act('stop')}>
              {run.isStopping ? 'Cut it off' : 'Stop politely'}
            </Button>
          )}
          <Link to={`/mail/sessions/${run.id}`} className="self-center text-[14px] underline">
            Timeline and literal lines
          </Link>
        </div>
      </OperatorOnly>
    </div>
  );
}

const STATE_WORDS = {
  proposed: 'offered',
  'under way': 'on its way',
  taken: 'there',
  had: 'there already',
  later: 'put off',
  held: 'held there',
  refused: 'refused',
  kept: 'here',
  'not wanted': 'not wanted',
} as const;

function Carried({ run }: { run: MailRunView }) {
  const { value: detail } = useAskedMail<MailRunDetail>(`/mail/sessions/${run.id}`);
  const told = new Map(detail?.announced.map((one) => [one.mid, one.subject]));
  const all = [
    ...run.out.map((one) => ({ ...one, way: 'out' as const })),
    ...run.in.map((one) => ({ ...one, way: 'in' as const })),
  ];
  if (all.length === 0) return null;
  return (
    <ul aria-label="Messages of this session" className="text-[14px]">
      {all.map((one) => (
        <li
          key={`${one.way} ${one.mid}`}
          className="grid grid-cols-[3.2rem_minmax(0,1fr)_auto] items-baseline gap-x-3 border-t border-line py-1 first:border-t-0"
        >
          <span className="text-ink3">{one.way === 'out' ? 'out ↗' : 'in ↙'}</span>
          <span className="min-w-0">
            <span className="block truncate">
              {detail?.subjects[one.mid] ?? told.get(one.mid) ?? one.mid}
            </span>
            {one.state === 'under way' && <Share done={one.doneOctets} of={one.packedOctets} />}
          </span>
          <span className="text-right text-ink2">
            {STATE_WORDS[one.state]}{' '}
            <span className="font-mono text-[13px]">
              {one.state === 'under way'
                ? `${one.doneOctets}/${one.packedOctets}`
                : octetWords(one.packedOctets)}
            </span>
          </span>
        </li>
      ))}
    </ul>
  );
}

/** Large ones: from whom, about what, how long. */
function Asking({ run }: { run: MailRunView }) {
  const { value: detail, again } = useAskedMail<MailRunDetail>(
    `/mail/sessions/${run.id}?asked=${run.askedAbout.join('-')}`,
  );
  const { problem, attempt } = useAttempt();
  const [answers, setAnswers] = useState<Readonly<Record<string, 'yes' | 'no' | 'later'>>>({});
  const rate = run.msLeft !== undefined && run.msLeft > 0 ? left(run) / run.msLeft : undefined;
  return (
    <fieldset className="border-l-[3px] border-look pl-3">
      <legend className="text-[15px] font-[620]">These are large. Are they wanted?</legend>
      {run.askedAbout.map((mid) => {
        const told = detail?.announced.find((one) => one.mid === mid);
        const packed = run.in.find((one) => one.mid === mid)?.packedOctets ?? 0;
        return (
          <div key={mid} className="flex flex-wrap items-baseline gap-x-3 py-1 text-[14px]">
            <span className="min-w-0 flex-1">
              {told ? `${shownAddress(told.from)}: ${told.subject}` : mid}, {octetWords(packed)}
              {rate !== undefined && `, about ${waitWords(packed / rate)}`}
            </span>
            {(['yes', 'later', 'no'] as const).map((answer) => (
              <label key={answer} className="flex min-h-8 items-center gap-1.5 max-md:min-h-11">
                <input
                  type="radio"
                  name={`wanted ${mid}`}
                  checked={(answers[mid] ?? 'later') === answer}
                  onChange={() => setAnswers({ ...answers, [mid]: answer })}
                />
                {answer === 'yes' ? 'take it' : answer === 'later' ? 'leave it there' : 'never'}
              </label>
            ))}
          </div>
        );
      })}
      {problem && <ProblemNote problem={problem} />}
      <Button
        kind="main"
        onClick={() =>
          void attempt(async () => {
            await command('POST', `/mail/sessions/${run.id}/decide`, {
              decisions: run.askedAbout.map((mid) => ({ mid, answer: answers[mid] ?? 'later' })),
            });
            again();
          })
        }
      >
        Go on
      </Button>
      <p className="text-[13px] text-ink3">Without an answer within a minute they stay there.</p>
    </fieldset>
  );
}

const left = (run: MailRunView): number =>
  [...run.out, ...run.in]
    .filter(({ state }) => state === 'proposed' || state === 'under way')
    .reduce((sum, one) => sum + one.packedOctets - one.doneOctets, 0);
