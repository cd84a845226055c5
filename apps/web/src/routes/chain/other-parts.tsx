import { useMemo, useState } from 'react';
import type { Chain } from '@mistpeak/core/chain/chain';
import { alternativesAt, insertionsAt, type Alternative } from '@mistpeak/core/chain/follow';
import type { Item } from '@mistpeak/core/kit/item';
import { Button } from '../../pieces/button';
import { ChainDrawing } from '../../pieces/chain-drawing';
import { Badge } from './badge';
import { MakeSheet } from './make-sheet';

const MOST_SHOWN = 12;

/** Another part in any place, one more at a joint, one less: each change is judged at once. */
export function OtherParts({ first, kit }: { first: Chain; kit: readonly Item[] }) {
  const [chain, setChain] = useState(first);
  const [at, setAt] = useState(0);
  const stone = chain.stones[Math.min(at, chain.stones.length - 1)];
  const place = Math.min(at, chain.stones.length - 1);
  const options = useMemo(
    () => ({
      instead: alternativesAt(chain, place, kit).slice(0, MOST_SHOWN),
      between: place < chain.stones.length - 1 ? insertionsAt(chain, place, kit).slice(0, MOST_SHOWN) : [],
    }),
    [chain, place, kit],
  );
  const next = chain.stones[place + 1];
  return (
    <section
      aria-label="Other parts"
      className="flex flex-col gap-3 border-l-[3px] border-edge bg-sheet px-4 py-3"
    >
      <div className="flex flex-wrap items-center gap-2" role="group" aria-label="Place in the chain">
        {chain.stones.map(({ item }, i) => (
          <button
            key={item.id}
            type="button"
            aria-pressed={i === place}
            onClick={() => setAt(i)}
            className="rounded-md border-[1.5px] border-edge bg-raise px-2 py-0.5 text-[13.5px] aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-paper max-md:min-h-11"
          >
            {item.name}
          </button>
        ))}
      </div>
      <Choices title={`Instead of “${stone?.item.name ?? ''}”`} options={options.instead} choose={setChain} />
      {next && (
        <Choices
          title={`Between “${stone?.item.name ?? ''}” and “${next.item.name}”`}
          options={options.between}
          choose={setChain}
        />
      )}
      {chain !== first && (
        <>
          <h3 className="flex items-center gap-2.5 font-[640]">
            <Badge chain={chain} /> As it is now
          </h3>
          <ChainDrawing chain={chain} label="The chain with other parts" />
          <div className="flex flex-wrap gap-2">
            <MakeSheet chain={chain} isMain />
            <Button onClick={() => setChain(first)}>Back to the first</Button>
          </div>
        </>
      )}
    </section>
  );
}

function Choices({
  title,
  options,
  choose,
}: {
  title: string;
  options: readonly Alternative[];
  choose: (chain: Chain) => void;
}) {
  return (
    <div>
      <h3 className="text-[14px] font-[640]">{title}</h3>
      {options.length === 0 && (
        <p className="text-[13.5px] text-ink2">Nothing else on the shelf fits there.</p>
      )}
      <ul className="flex flex-wrap gap-x-4 gap-y-1 pt-1">
        {options.map(({ kind, item, chain }) => (
          <li key={`${kind} ${item.id}`} className="flex items-center gap-1.5">
            <button
              type="button"
              onClick={() => choose(chain)}
              className="text-[14px] underline decoration-line underline-offset-4 hover:decoration-ink max-md:min-h-11"
            >
              {kind === 'without' ? `leave it out` : item.name}
            </button>
            <Badge chain={chain} />
          </li>
        ))}
      </ul>
    </div>
  );
}
