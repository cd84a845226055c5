import { quickest, type Drill } from '@mistpeak/core/drills/drill';
import { explanationOf, scoreOf, type Spent } from '@mistpeak/core/drills/score';
import { likelihoods, nextTests } from '@mistpeak/core/faults/bayes';
import { FAULTS } from '@mistpeak/core/faults/faults';
import { TESTS } from '@mistpeak/core/faults/tests';
import { Button } from '../../pieces/button';

/** How it went, what told the causes, and how the quickest would have found them. spent: on the real pages. */
export function Ended({ drill, spent, leave }: { drill: Drill; spent?: Spent; leave: () => void }) {
  const { faults, named = [] } = drill;
  const isFound = faults.every((one) => named.includes(one)) && named.length === faults.length;
  const best = quickest(drill);
  const [first] = nextTests(likelihoods(drill.complaint, []), []);
  return (
    <div className="mt-3 flex flex-col items-start gap-3">
      <p role="status" className={`text-[19px] font-[640] ${isFound ? 'text-proved' : 'text-look'}`}>
        {isFound ? 'Found.' : 'Not quite.'} {scoreOf(drill, spent)} of 100.
      </p>
      {explanationOf(drill).map(({ fault, words, mend, by }) => (
        <div key={fault} className="border-l-[4px] border-proved bg-raise px-4 py-2">
          <p className="font-[640]">{FAULTS[fault].name}</p>
          <p className="text-[14px]">
            It is told by: {words}.{' '}
            {by.length > 0
              ? `You had it from: ${by.join('; ')}.`
              : spent
                ? 'The pages showed it.'
                : 'None of your tests spoke for it.'}
          </p>
          <p className="text-[14px] text-ink2">{mend}</p>
        </div>
      ))}
      <p className="text-[14px] text-ink2">
        By what tells most per minute:{' '}
        {best.findings.map(({ test }) => TESTS[test].what.toLowerCase()).join(', then ') || 'no test at all'}
        {first && best.findings.length === 0 ? '; the complaint alone says it' : ''}. The figures behind it
        are common practice.
      </p>
      <Button kind="main" onClick={leave}>
        Another drill
      </Button>
    </div>
  );
}
