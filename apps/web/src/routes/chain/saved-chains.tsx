import { useState } from 'react';
import { Link } from 'react-router';
import { PURPOSES } from '@mistpeak/core/proof/ladder';
import type { ChainView } from '@mistpeak/contract/chain';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { chainName, settingsOf } from '../../live/saved-chain';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { SearchField } from '../../pieces/search-field';
import { ChainNameForm } from './chain-name-form';

/** A longer list is searched. */
const MANY = 6;

/** What was saved before: opened, named, doubled, removed; the one on the Bench is marked. */
export function SavedChains() {
  const chains = useLive((state) => state.chains);
  const [wanted, setWanted] = useState('');
  if (chains.length === 0) return null;
  const words = wanted.toLowerCase().split(/\s+/);
  const found = chains.filter((chain) => words.every((word) => textOf(chain).includes(word)));
  return (
    <details className="border-b border-line pb-2 text-[14px]">
      <summary className="cursor-pointer py-1 font-[640] max-md:min-h-11">
        {chains.length === 1 ? 'One saved chain' : `${chains.length} saved chains`}
      </summary>
      {chains.length > MANY && (
        <SearchField label="Find a saved chain" value={wanted} set={setWanted} className="block py-1.5" />
      )}
      <ul aria-label="Saved chains">
        {found.map((chain) => (
          <SavedChain key={chain.id} chain={chain} />
        ))}
      </ul>
      {found.length === 0 && (
        <p className="py-1 text-ink2">None of them has that in its name or its parts.</p>
      )}
    </details>
  );
}

/** Everything by which it is found. */
const textOf = (chain: ChainView): string =>
  [chainName(chain), PURPOSES[chain.purpose].name, chain.antenna, ...chain.parts.map(({ name }) => name)]
    .join(' ')
    .toLowerCase();

function SavedChain({ chain }: { chain: ChainView }) {
  const { problem, isBusy, attempt } = useAttempt();
  const [isNaming, setNaming] = useState(false);
  const copy = { ...settingsOf(chain), name: `${chainName(chain).slice(0, 50)}, copy` };
  return (
    <li className="grid items-center gap-x-3 gap-y-1 border-t border-line py-1 md:grid-cols-[1fr_auto]">
      <span>
        <Link
          to={`/chain/${chain.id}`}
          className="font-[560] underline decoration-line underline-offset-4 hover:decoration-ink max-md:inline-block max-md:min-h-11 max-md:content-center"
        >
          {chainName(chain)}
        </Link>
        <span className="block text-[13px] text-ink2">
          {PURPOSES[chain.purpose].name}
          {chain.onBench ? ', on the Bench' : ''}
        </span>
      </span>
      <OperatorOnly>
        <span className="flex flex-wrap gap-1.5">
          <Button onClick={() => setNaming(!isNaming)} aria-label={`Name ${chainName(chain)}`}>
            Name
          </Button>
          <Button
            disabled={isBusy}
            onClick={() => void attempt(() => command('POST', '/chains', copy))}
            aria-label={`Duplicate ${chainName(chain)}`}
          >
            Duplicate
          </Button>
          <Button
            disabled={isBusy}
            onClick={() => void attempt(() => command('DELETE', `/chains/${chain.id}`))}
            aria-label={`Remove ${chainName(chain)}`}
          >
            Remove
          </Button>
        </span>
        <div className="md:col-span-2">
          {isNaming && <ChainNameForm chain={chain} close={() => setNaming(false)} />}
          {problem && <ProblemNote problem={problem} />}
        </div>
      </OperatorOnly>
    </li>
  );
}
