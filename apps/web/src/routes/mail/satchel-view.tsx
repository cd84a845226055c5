import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { MailRow } from '@mistpeak/contract/mail';
import type { MailDesk, MailRunView } from '@mistpeak/contract/mail-session';
import { shownAddress } from '@mistpeak/core/mail/address';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useLastRun, useLetters } from '../../live/mail-desk';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { CallPanel } from './call-panel';
import { RunPanel } from './run-panel';
import { Share } from './share';
import { octetWords, waitWords } from './words';

/** What is to go, the one short session, and what came. */
export function SatchelView({ desk }: { desk: MailDesk }) {
  const run = useLastRun();
  const isUnderWay = run !== undefined && run.phase !== 'over';
  const nowMs = useNow(10_000);
  const [profileId, setProfileId] = useState('');
  const profile = desk.settings.profiles.find(({ id }) => id === profileId) ?? desk.settings.profiles[0];
  return (
    <div className="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,19rem)_minmax(0,1fr)_minmax(0,19rem)]">
      <ToGo profileId={profile?.id} run={run} />
      <section
        aria-label="The session"
        className="flex min-w-0 flex-col gap-4 border-t-[1.5px] border-ink pt-2 max-lg:order-first"
      >
        <h2>{isUnderWay ? `Session with ${run.gateway}` : 'One short session'}</h2>
        {run && (isUnderWay || nowMs - (run.endedAtMs ?? 0) < RECENT_MS) && <RunPanel run={run} />}
        {!isUnderWay && <CallPanel desk={desk} profile={profile} choose={setProfileId} />}
      </section>
      <Came desk={desk} />
    </div>
  );
}

/** An ended one stays in sight as long as this page does, and a quarter of an hour. */
const RECENT_MS = 15 * 60_000;

interface Heavy {
  readonly ms: number;
  readonly sessionMs: number;
}

function ToGo({ profileId, run }: { profileId: string | undefined; run: MailRunView | undefined }) {
  const { value: rows = [] } = useLetters('outbox');
  const { value: drafts = [] } = useLetters('drafts');
  const navigate = useNavigate();
  const nowMs = useNow(10_000);
  const weights = useWeights(rows, profileId);
  const going = new Map((run?.phase === 'over' ? [] : (run?.out ?? [])).map((one) => [one.mid, one]));
  return (
    <section aria-label="To go" className="flex min-w-0 flex-col gap-2 border-t-[1.5px] border-ink pt-2">
      <div className="flex items-baseline justify-between gap-3">
        <h2>To go</h2>
        <OperatorOnly>
          <Button kind="main" onClick={() => void navigate('/mail/write/new')}>
            Write a letter
          </Button>
        </OperatorOnly>
      </div>
      {rows.length === 0 && (
        <p className="text-[14px] text-ink2">
          Nothing. What you post waits here until a session takes it; posting sends nothing.
        </p>
      )}
      <ul>
        {rows.map((row) => (
          <li key={row.id} className="border-t border-line py-2 first:border-t-0">
            <Link to={`/mail/write/${row.id}`} className="flex items-baseline justify-between gap-2">
              <span className="min-w-0 truncate text-[15px] font-[600]">{row.subject || '(no subject)'}</span>
              <span className="shrink-0 font-mono text-[14px]">
                {weights ? waitWords(weights.get(row.id) ?? 0) : '…'}
              </span>
            </Link>
            <p className="truncate text-[13.5px] text-ink2">
              to {row.to.map(shownAddress).join(', ')} · {octetWords(row.packedOctets)}
              {row.files > 0 && ` · ${row.files} file${row.files === 1 ? '' : 's'}`}
              {row.precedence !== 'routine' && ` · ${row.precedence}`}
              {row.onlyInternet && ' · only over the internet'}
            </p>
            {row.afterMs !== undefined && row.afterMs > nowMs && (
              <p className="text-[13px] text-ink2">
                not before {new Date(row.afterMs).toISOString().slice(11, 16)} UTC
              </p>
            )}
            {row.note !== undefined && <p className="text-[13px] text-look">{row.note}</p>}
            {going.has(row.mid) && <Share done={going.get(row.mid)?.doneOctets ?? 0} of={row.packedOctets} />}
          </li>
        ))}
      </ul>
      {rows.length > 1 && weights && (
        <p className="border-t border-edge pt-1.5 text-[14px]">
          Together{' '}
          <span className="font-mono">
            {waitWords([...weights.values()].reduce((sum, ms) => sum + ms, 0))}
          </span>{' '}
          on the air
        </p>
      )}
      {drafts.length > 0 && (
        <>
          <h3 className="mt-3 text-[14.5px] font-[620]">Drafts</h3>
          <ul>
            {drafts.map((row) => (
              <li key={row.id} className="py-0.5 text-[14px]">
                <Link to={`/mail/write/${row.id}`} className="underline">
                  {row.subject || '(no subject)'}
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

/** By the pace of the chosen way. */
function useWeights(
  rows: readonly MailRow[],
  profileId: string | undefined,
): ReadonlyMap<string, number> | undefined {
  const [pace, setPace] = useState<{ readonly octetsPerSecond: number }>();
  useEffect(() => {
    const empty = {
      to: [],
      cc: [],
      subject: '',
      text: '',
      files: [],
      beyondLatin1: 'utf-8',
      precedence: 'routine',
      onlyInternet: false,
    };
    void command<Heavy & { pace: { octetsPerSecond: number } }>('POST', '/mail/weigh', {
      ...empty,
      ...(profileId === undefined ? {} : { profileId }),
    })
      .then((weight) => setPace(weight.pace))
      .catch(() => undefined);
  }, [profileId]);
  if (!pace) return undefined;
  return new Map(
    rows.map(({ id, packedOctets }) => [id, (1000 * (packedOctets * 1.008 + 60)) / pace.octetsPerSecond]),
  );
}

const SHOWN = 12;

function Came({ desk }: { desk: MailDesk }) {
  const { value: rows = [] } = useLetters('inbox');
  const nowMs = useNow(10_000);
  return (
    <section aria-label="Came" className="flex min-w-0 flex-col gap-2 border-t-[1.5px] border-ink pt-2">
      <h2>Came</h2>
      {rows.length === 0 && <p className="text-[14px] text-ink2">Nothing yet.</p>}
      <ul>
        {rows.slice(0, SHOWN).map((row) => (
          <li key={row.id} className="border-t border-line first:border-t-0">
            <Link to={`/mail/read/${row.id}`} className="block py-2">
              <span className="flex items-baseline justify-between gap-2">
                <span className={`min-w-0 truncate text-[15px] ${row.isRead ? '' : 'font-[680]'}`}>
                  {!row.isRead && (
                    <span className="mr-1.5 inline-block size-2 rounded-full bg-provedfill" aria-hidden />
                  )}
                  {row.subject || '(no subject)'}
                  {!row.isRead && <span className="sr-only"> (unread)</span>}
                </span>
                <span className="shrink-0 text-[13px] text-ink3">{formatAge(nowMs - row.atMs)}</span>
              </span>
              <span className="block truncate text-[13.5px] text-ink2">
                from {shownAddress(row.from)}
                {row.answeredAtMs !== undefined && ' · answered'}
                {row.files > 0 && ` · ${row.files} file${row.files === 1 ? '' : 's'}`}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {rows.length > SHOWN && (
        <Link to="/mail/letters/inbox" className="text-[14px] underline">
          All {desk.counts.inbox} letters
        </Link>
      )}
      <SelfTests desk={desk} />
    </section>
  );
}

/** To the test address and back: what proves all of the way. */
function SelfTests({ desk }: { desk: MailDesk }) {
  const { problem, isBusy, attempt } = useAttempt();
  const nowMs = useNow(10_000);
  // By what it is tried: the chain on the Bench, as its trial will be found again.
  const onBench = useLive((state) => state.chains.find((one) => one.onBench)?.name);
  const chain = onBench ?? desk.settings.profiles[0]?.name ?? '';
  return (
    <section aria-label="Self-test" className="mt-3 flex flex-col gap-1.5">
      <h3 className="text-[14.5px] font-[620]">Self-test</h3>
      {desk.selfTests.slice(0, 3).map((test) => (
        <p key={test.number} className="text-[13.5px] text-ink2">
          <span className="font-mono">{test.tag}</span>:{' '}
          {test.answeredAtMs !== undefined
            ? `answered ${formatAge(nowMs - test.answeredAtMs)} ago: sending and receiving are proved`
            : test.sentAtMs !== undefined
              ? 'taken; the answer is due on the next connection'
              : 'posted, and not sent yet'}
        </p>
      ))}
      <OperatorOnly>
        <div>
          <Button
            disabled={isBusy}
            onClick={() =>
              void attempt(() => command('POST', `/mail/self-tests?n=${desk.selfTests.length}`, { chain }))
            }
          >
            Post a self-test
          </Button>
        </div>
      </OperatorOnly>
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}
