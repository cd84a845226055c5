import { chainState, findingsOf, type Chain } from '@mistpeak/core/chain/chain';

const BADGE = {
  works: ['works', 'border-proved text-proved'],
  switches: ['one switch away', 'border-look text-look'],
  breaks: ['breaks here', 'border-stop text-stop'],
} as const;

/** What the chain comes to, in a word. */
export function Badge({ chain }: { chain: Chain }) {
  const state = chainState(chain);
  const switches = findingsOf(chain).filter(({ level }) => level === 'switch').length;
  const [one, ink] = BADGE[state];
  return (
    <span className={`rounded-full border-[1.5px] px-2.5 py-px font-mono text-[13px] font-[600] ${ink}`}>
      {state === 'switches' && switches > 1 ? `${switches} switches away` : one}
    </span>
  );
}
