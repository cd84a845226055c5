import { Link } from 'react-router';
import type { MailRunDetail, MailRunView } from '@mistpeak/contract/mail-session';
import { useAskedMail } from '../../live/mail-desk';
import { useLive } from '../../live/store';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';
import { SessionClimb } from './session-climb';
import { Timeline } from './timeline';
import { octetWords, phaseWords, resultWords, waitWords, whenWords } from './words';

/** Every session and every try, and one of them opened. */
export function SessionsView({ id }: { id: string | undefined }) {
  if (id !== undefined) return <OneSession id={id} />;
  return <AllSessions />;
}

function AllSessions() {
  const runs = useLive((state) => state.mailRuns);
  if (runs.length === 0)
    return (
      <p className="text-ink2">No session yet: every one is kept here, with each gateway that was tried.</p>
    );
  return (
    <ul aria-label="Sessions" className="max-w-[62rem]">
      {[...runs].reverse().map((run) => (
        <li key={run.id} className="border-t border-line py-2 first:border-t-0">
          <Link to={`/mail/sessions/${run.id}`} className="flex flex-wrap items-baseline gap-x-4">
            <span className="font-mono text-[13.5px] text-ink2">{whenWords(run.startedAtMs)}</span>
            <span className="text-[15px] font-[600]">
              {run.calledBy === 'them' ? `Called by ${run.gateway}` : run.profile}
              {run.isScheduled && ' (by schedule)'}
            </span>
            <span
              className={`min-w-0 flex-1 text-[14px] ${run.outcome?.ok === false ? 'text-look' : 'text-ink2'}`}
            >
              {phaseWords(run)}
            </span>
          </Link>
          <p className="text-[13.5px] text-ink2">
            {run.attempts
              .map((one) => `${one.gateway}: ${one.result === 'done' ? 'well' : one.result}`)
              .join(' · ')}
          </p>
        </li>
      ))}
    </ul>
  );
}

function OneSession({ id }: { id: string }) {
  const live = useLive((state) => state.mailRuns.find((run) => run.id === id));
  const { value: detail, problem } = useAskedMail<MailRunDetail>(
    `/mail/sessions/${id}?at=${live?.phase ?? ''}${live?.exchange ?? ''}`,
  );
  const run = live ?? detail?.run;
  if (problem) return <ProblemNote problem={problem} />;
  if (!run) return <p className="text-ink2">Looking for it …</p>;
  return (
    <div className="flex max-w-[70rem] flex-col gap-5">
      <div>
        <h2>
          {run.profile}, {whenWords(run.startedAtMs)} UTC
        </h2>
        <p className="text-[15px]">{phaseWords(run)}</p>
        {run.outcome && !run.outcome.ok && (
          <p className="text-[14px] text-ink2">
            {run.outcome.means} <strong>Try:</strong> {run.outcome.try}
          </p>
        )}
      </div>
      <div className="grid gap-8 lg:grid-cols-2">
        <SessionClimb run={run} />
        <Timeline run={run} lines={detail?.lines ?? []} />
      </div>
      <Attempts run={run} />
      <Lines detail={detail} />
    </div>
  );
}

function Attempts({ run }: { run: MailRunView }) {
  return (
    <section aria-label="Tries">
      <h2>Tries</h2>
      <Table
        stacks
        columns={['Gateway', 'MHz', 'From', 'After', 'Out / in', 'Octets/s', 'Sent again', 'Level', 'Result']}
      >
        {run.attempts.map((one, i) => (
          <tr key={i} className="border-t border-line align-baseline [&_td]:py-1 [&_td]:pr-3">
            <td className="font-mono">
              {one.gateway}
              {one.via !== '' && ` via ${one.via}`}
            </td>
            <td className="font-mono">{one.frequencyMHz?.toFixed(3) ?? '–'}</td>
            <td className="font-mono">{one.place || '–'}</td>
            <td>
              {one.connectedAtMs === undefined
                ? '–'
                : waitWords(one.connectedAtMs - (one.calledAtMs ?? one.atMs))}
            </td>
            <td className="font-mono">
              {one.octetsOut} / {one.octetsIn}
            </td>
            <td className="font-mono">{one.octetsPerSecond?.toFixed(0) ?? '–'}</td>
            <td className="font-mono">
              {one.framesSent === undefined ? '–' : `${one.resent ?? 0} of ${one.framesSent}`}
            </td>
            <td className="font-mono">
              {one.levelDbfs === undefined ? '–' : `${one.levelDbfs.toFixed(0)} dBFS`}
            </td>
            <td>{resultWords(one)}</td>
          </tr>
        ))}
      </Table>
    </section>
  );
}

/** Word for word, both ways; the password is in none of them. */
function Lines({ detail }: { detail: MailRunDetail | undefined }) {
  const first = detail?.lines[0]?.atMs ?? 0;
  if (!detail || detail.lines.length === 0) return null;
  return (
    <details>
      <summary className="cursor-pointer text-[15px] font-[620]">
        Word for word ({detail.lines.length} lines)
      </summary>
      <ol className="mt-2 font-mono text-[13.5px]" aria-label="Lines">
        {detail.lines.map(({ atMs, side, text }, i) => (
          <li key={i} className="grid grid-cols-[4.5rem_1.6rem_minmax(0,1fr)] gap-x-2">
            <span className="text-right text-ink3">{((atMs - first) / 1000).toFixed(1)} s</span>
            <span
              aria-label={side === 'mine' ? 'mine' : side === 'theirs' ? 'theirs' : 'told'}
              className="text-ink3"
            >
              {side === 'mine' ? '→' : side === 'theirs' ? '←' : '·'}
            </span>
            <span
              className={`min-w-0 break-words ${side === 'mine' ? 'text-proved' : side === 'told' ? 'text-ink2 italic' : ''}`}
            >
              {text}
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-2 text-[13px] text-ink3">
        {octetWords(detail.run.attempts.reduce((sum, one) => sum + one.octetsIn + one.octetsOut, 0))} in all.
      </p>
    </details>
  );
}
