import { Link } from 'react-router';
import { PURPOSES } from '@mistpeak/core/proof/ladder';
import { useLive } from '../../live/store';

/** What was saved before; the one on the Bench is marked. */
export function SavedChains() {
  const chains = useLive((state) => state.chains);
  if (chains.length === 0) return null;
  return (
    <nav aria-label="Saved chains" className="border-b border-line pb-2.5 text-[14px]">
      <b className="font-[640]">Saved: </b>
      {chains.map(({ id, purpose, parts, onBench }, i) => (
        <span key={id}>
          {i > 0 ? ' · ' : ''}
          <Link
            to={`/chain/${id}`}
            className="underline decoration-line underline-offset-4 hover:decoration-ink"
          >
            {parts[0]?.name} to {parts.at(-1)?.name}, {PURPOSES[purpose].name}
          </Link>
          {onBench ? ' (on the Bench)' : ''}
        </span>
      ))}
    </nav>
  );
}
