import { Link } from 'react-router';
import type { ChainFacts } from '@mistpeak/core/diagnosis/causes';
import type { Verdict } from '@mistpeak/core/diagnosis/verdict';
import { knownFindings, weigh } from '@mistpeak/core/diagnosis/weighing';
import type { Finding } from '@mistpeak/core/faults/bayes';
import { TESTS, type Test, type TestId } from '@mistpeak/core/faults/tests';
import { inWords, type Difference } from '@mistpeak/core/logbook/moment';
import type { LinkView } from '@mistpeak/contract/link';
import { useDraft } from '../../live/draft';
import { useNow } from '../../live/now';
import { useCompared, useWorked } from '../../live/worked';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';

/** What the operator tried while something was wrong with this opening of the link. */
interface Tried {
  readonly openedAtMs: number;
  readonly findings: readonly Finding[];
}
const SHOWN_CHANGES = 3;

/** What may be the matter, the likeliest first; the test that would tell most, with its answers; what changed since it worked. */
export function Causes({ link, verdict, facts }: { link: LinkView; verdict: Verdict; facts: ChainFacts }) {
  const openedAtMs = link.openedAtMs ?? 0;
  const { values, set } = useDraft<Tried>(`tried ${link.id}`, { openedAtMs, findings: [] });
  const tried = values.openedAtMs === openedAtMs ? values.findings : [];
  const isWrong = verdict.causes.length > 0 || verdict.complaint !== undefined;
  const changed = useChangedSinceItWorked(isWrong);
  if (!isWrong) return null;
  const { causes, next } = weigh(verdict, facts, tried, changed.differences);
  const keep = (findings: readonly Finding[]): void => set({ openedAtMs, findings });
  return (
    <div className="flex flex-col gap-3 pt-3 text-[14px]">
      {changed.ago !== undefined && <Changed ago={changed.ago} differences={changed.differences} />}
      {next && (
        <OperatorOnly>
          <NextTest test={next} tell={(outcome) => keep([...tried, { test: next, outcome }])} />
        </OperatorOnly>
      )}
      <ol aria-label="Causes, likeliest first" className="flex flex-col gap-1.5">
        {causes.map(({ cause, test, likely }) => (
          <li key={cause} className="grid grid-cols-[2.4rem_minmax(0,1fr)] items-baseline gap-x-2">
            <span className="text-right font-mono text-[13px] text-ink2">
              {likely !== undefined && `${Math.round(likely * 100)}%`}
            </span>
            <span>
              <b className="font-[620]">{cause}</b> <span className="text-ink2">{test}</span>
            </span>
          </li>
        ))}
      </ol>
      <OperatorOnly>
        {tried.length > 0 && (
          <ul aria-label="What I tried" className="flex flex-col gap-1">
            {tried.map(({ test, outcome }) => (
              <li key={test} className="flex flex-wrap items-baseline gap-x-2">
                <span>
                  {TESTS[test].what}: <b className="font-[620]">{outcome}</b>
                </span>
                <button
                  type="button"
                  className="min-h-6 text-ink2 underline max-md:min-h-11"
                  aria-label={`Take back: ${TESTS[test].what}`}
                  onClick={() => keep(tried.filter((one) => one.test !== test))}
                >
                  take back
                </button>
              </li>
            ))}
          </ul>
        )}
      </OperatorOnly>
      <Known findings={knownFindings(facts).filter(({ test }) => tried.every((one) => one.test !== test))} />
    </div>
  );
}

function NextTest({ test, tell }: { test: TestId; tell: (outcome: string) => void }) {
  const { what, minutes, packets, outcomes }: Test = TESTS[test];
  return (
    <section aria-label="The test that tells most" className="border-l-[4px] border-look bg-raise px-3 py-2">
      <p>
        This tells most for its time:{' '}
        <b className="font-[620]">{what.charAt(0).toLowerCase() + what.slice(1)}</b>
        <span className="text-ink2">
          {' '}
          ({minutes} min{packets > 0 && `, ${packets === 1 ? 'one packet' : `${packets} packets`}`}).
        </span>{' '}
        What came out?
      </p>
      <div className="flex flex-wrap gap-1.5 pt-2">
        {outcomes.map((outcome) => (
          <Button key={outcome} onClick={() => tell(outcome)}>
            {outcome.charAt(0).toUpperCase() + outcome.slice(1)}
          </Button>
        ))}
      </div>
    </section>
  );
}

/** What was not asked for, since it is known. */
function Known({ findings }: { findings: readonly Finding[] }) {
  if (findings.length === 0) return null;
  return (
    <p className="text-[13px] text-ink3">
      Taken into account:{' '}
      {findings.map(({ test, outcome }) => `${NAMES[test] ?? test}: ${outcome}`).join('; ')}. How often each
      cause is behind it: common practice.
    </p>
  );
}

const NAMES: Partial<Record<TestId, string>> = {
  port: 'the port',
  listen: 'the receiver',
  meter: 'the receive check',
  call: 'the last call',
  another: 'other stations called',
};

interface Changes {
  readonly ago?: string;
  readonly differences: readonly Difference[];
}

/** Nothing where it never worked, or nothing is known of that time. */
function useChangedSinceItWorked(isWanted: boolean): Changes {
  const nowMs = useNow(60_000);
  const atMs = useWorked(1, isWanted).value?.entries[0]?.atMs;
  const { value } = useCompared(isWanted ? atMs : undefined, nowMs);
  if (atMs === undefined || !value?.from) return { differences: [] };
  return { ago: formatAge(nowMs - atMs), differences: value.differences };
}

function Changed({ ago, differences }: Required<Changes>) {
  return (
    <p>
      It worked {ago} ago.{' '}
      {differences.length === 0
        ? 'Nothing that Mistpeak sees has changed since.'
        : `Since then: ${differences.slice(0, SHOWN_CHANGES).map(inWords).join('; ')}${differences.length > SHOWN_CHANGES ? ` and ${differences.length - SHOWN_CHANGES} more` : ''}.`}{' '}
      <Link to="/logbook/changed" className="underline">
        What changed
      </Link>
    </p>
  );
}
