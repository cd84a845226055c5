import { useMemo } from 'react';
import { climb, type Camp } from '@mistpeak/core/proof/ladder';
import { UNNAMED_CHAIN, type ChainView } from '@mistpeak/contract/chain';
import type { LinkView } from '@mistpeak/contract/link';
import { isOpen, useMainLink } from './main-link';
import { useNow } from './now';
import { useLive } from './store';

export interface Climb {
  readonly link: LinkView;
  readonly chain: ChainView;
  readonly camps: readonly Camp[];
}

/** The climb of the main link's chain, as the evidence stands now. */
export function useClimb(): Climb | undefined {
  const link = useMainLink();
  const evidence = useLive((state) => state.evidence);
  const chains = useLive((state) => state.chains);
  const nowMs = useNow(1000);
  return useMemo(() => {
    if (!link) return undefined;
    const chain = chains.get(link.id) ?? { linkId: link.id, ...UNNAMED_CHAIN };
    const mine = evidence.filter(({ linkId }) => linkId === link.id);
    const situation = { isOpen: isOpen(link), isMoving: chain.isMoving };
    return { link, chain, camps: climb(chain.purpose, mine, situation, nowMs) };
  }, [link, chains, evidence, nowMs]);
}
