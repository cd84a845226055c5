import { useState } from 'react';
import { findingsOf, type Chain } from '@mistpeak/core/chain/chain';
import { chainTitle, standing } from '@mistpeak/core/chain/rank';
import type { Item } from '@mistpeak/core/kit/item';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { ChainDrawing } from '../../pieces/chain-drawing';
import { Badge } from './badge';
import { MakeSheet } from './make-sheet';
import { OtherParts } from './other-parts';

/** A chain that works, or does once something is set. */
export function WholeChain({
  chain,
  place,
  others,
  kit,
}: {
  chain: Chain;
  place: number;
  others: readonly Chain[];
  kit: readonly Item[];
}) {
  const trials = useLive((state) => state.trials);
  const { forIt, against, provedAtMs } = standing(chain, others, trials);
  const switches = findingsOf(chain).filter(({ level }) => level === 'switch');
  const date = provedAtMs === undefined ? '' : ` on ${new Date(provedAtMs).toISOString().slice(0, 10)}`;
  const reasons = forIt.map((reason) => (reason.startsWith('every joint') ? `${reason}${date}` : reason));
  return (
    <PlannedChain chain={chain} place={place} kit={kit}>
      {switches.length > 0 && (
        <ul className="text-[14px]">
          {switches.map(({ rule, itemId, mend }) => (
            <li key={`${rule} ${itemId}`}>
              <b className="font-[620]">{mend}</b>
            </li>
          ))}
        </ul>
      )}
      <Reasons lead="For it" reasons={reasons} />
      <Reasons lead="Against it" reasons={against} />
    </PlannedChain>
  );
}

function Reasons({ lead, reasons }: { lead: string; reasons: readonly string[] }) {
  if (reasons.length === 0) return null;
  return (
    <p className="text-[14px] text-ink2">
      <b className="font-[640] text-ink">{lead}: </b>
      {reasons.join('; ')}.
    </p>
  );
}

/** A chain that breaks at one joint, and what would mend it. */
export function BrokenChain({
  chain,
  mends,
  place,
  kit,
}: {
  chain: Chain;
  mends: readonly (readonly Item[])[];
  place: number;
  kit: readonly Item[];
}) {
  const broken = findingsOf(chain).find(({ level }) => level === 'breaks');
  const switches = findingsOf(chain).filter(({ level, mend }) => level === 'switch' && mend);
  return (
    <PlannedChain chain={chain} place={place} kit={kit}>
      <p className="text-[14px] text-ink2">
        {mends.length > 0 ? (
          <>
            {mends[0]?.length === 1 ? 'One part would mend it: ' : 'These together would mend it: '}
            <b className="font-[640] text-ink">
              {mends.map((list) => list.map(nameOf).join(' with ')).join(', or ')}
            </b>
            .
          </>
        ) : (
          `${broken?.text ?? 'It breaks'}: no one or two parts would mend it.`
        )}
        {switches.length > 0 ? ` Besides: ${switches.map(({ mend }) => mend).join(' ')}` : ''}
      </p>
    </PlannedChain>
  );
}

/** What is owned elsewhere is fetched. */
const nameOf = ({ name, isHere }: Item): string => (isHere ? name : `${name} (yours, not at hand)`);

function PlannedChain({
  chain,
  place,
  kit,
  children,
}: {
  chain: Chain;
  place: number;
  kit: readonly Item[];
  children: React.ReactNode;
}) {
  const [isOpen, setOpen] = useState(false);
  const title = chainTitle(chain);
  return (
    <article
      aria-label={`${place + 1}: ${title}`}
      className="flex flex-col gap-2 border-b border-line py-3.5"
    >
      <h2 className="flex flex-wrap items-center gap-2.5">
        <Badge chain={chain} />
        {place + 1} · {title}
      </h2>
      <ChainDrawing chain={chain} label={`Chain ${place + 1}`} />
      {children}
      <div className="flex flex-wrap gap-2">
        <MakeSheet chain={chain} isMain={place === 0} />
        <Button onClick={() => setOpen(!isOpen)} aria-expanded={isOpen}>
          {isOpen ? 'Close the other parts' : 'Try other parts'}
        </Button>
      </div>
      {isOpen && <OtherParts first={chain} kit={kit} />}
    </article>
  );
}
