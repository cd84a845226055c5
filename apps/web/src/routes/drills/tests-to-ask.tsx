import type { Finding } from '@mistpeak/core/faults/bayes';
import { TESTS, type TestId } from '@mistpeak/core/faults/tests';

/** What came out so far. */
export function Findings({ findings }: { findings: readonly Finding[] }) {
  return (
    <>
      <h2>What came out</h2>
      {findings.length === 0 && <p className="text-[14px] text-ink2">Nothing is tried yet.</p>}
      <ol>
        {findings.map(({ test, outcome }) => (
          <li key={test} className="border-t border-line py-1.5">
            {TESTS[test].what}: <b className="font-[640]">{outcome}</b>
          </li>
        ))}
      </ol>
    </>
  );
}

/** What can be asked for, with what it costs. */
export function Tests({
  name = 'Try',
  tests,
  ask,
}: {
  name?: string;
  tests: readonly TestId[];
  ask: (test: TestId) => void;
}) {
  return (
    <section aria-label="Tests" className="flex flex-col gap-1">
      <h2>{name}</h2>
      <ul>
        {tests.map((test) => (
          <li key={test}>
            <button
              type="button"
              onClick={() => ask(test)}
              className="flex min-h-9 w-full items-baseline justify-between gap-3 border-t border-line py-1.5 text-left text-[14.5px] hover:bg-raise max-md:min-h-11"
            >
              {TESTS[test].what}
              <span className="shrink-0 font-mono text-[13px] text-ink3">
                {TESTS[test].minutes} min{TESTS[test].packets > 0 && `, ${TESTS[test].packets} pkt`}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
