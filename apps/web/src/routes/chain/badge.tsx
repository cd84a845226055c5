import { findingsOf, type Chain } from '@mistpeak/core/chain/chain';
import { wordFor, type Word } from '@mistpeak/core/chain/record';
import { useLive } from '../../live/store';

const BADGE: Readonly<Record<Word, readonly [string, string]>> = {
  works: ['works', 'border-proved text-proved'],
  'should work': ['should work', 'border-ink3 text-ink2'],
  untested: ['untested part', 'border-look text-look'],
  failed: ['failed last time', 'border-stop text-stop'],
  switches: ['one switch away', 'border-look text-look'],
  breaks: ['breaks here', 'border-stop text-stop'],
};

/** What the chain comes to, in a word: works is said only of what was tried with that result. */
export function Badge({ chain }: { chain: Chain }) {
  const trials = useLive((state) => state.trials);
  const word = wordFor(chain, trials);
  const switches = findingsOf(chain).filter(({ level }) => level === 'switch').length;
  const missing = chain.stones.filter(({ isMissing }) => isMissing).length;
  const [one, ink] = missing > 0 ? [partsAway(missing), BADGE.switches[1]] : BADGE[word];
  return (
    <span className={`rounded-full border-[1.5px] px-2.5 py-px font-mono text-[13px] font-[600] ${ink}`}>
      {word === 'switches' && switches > 1 ? `${switches} switches away` : one}
    </span>
  );
}

const partsAway = (missing: number): string => (missing === 1 ? 'one part away' : `${missing} parts away`);
