import { useMemo } from 'react';
import { isSoundChain } from '@mistpeak/core/chain/chain';
import { followChain } from '@mistpeak/core/chain/follow';
import type { Chain } from '@mistpeak/core/chain/chain';
import type { Evidence } from '@mistpeak/core/proof/evidence';
import { climb, type Camp } from '@mistpeak/core/proof/ladder';
import { unnamedChain, type ChainView } from '@mistpeak/contract/chain';
import { isSound, type LinkView } from '@mistpeak/contract/link';
import { isOpen, useMainLink } from './main-link';
import { useNow } from './now';
import { useLive } from './store';

/** The chain on the Bench and what of it is proved. */
export interface Climb {
  /** The link that it goes by; none where the chain ends in another app, or none was made yet. */
  readonly link?: LinkView;
  readonly chain: ChainView;
  /** Its parts as they are in the kit now, joined by the rules; undefined where they do not go together. */
  readonly joined?: Chain;
  readonly camps: readonly Camp[];
  readonly endsElsewhere: boolean;
}

/** The climb of the chain on the Bench, as the evidence stands now. */
export function useClimb(): Climb | undefined {
  const main = useMainLink();
  const onBench = useLive((state) => state.chains.find((chain) => chain.onBench));
  const link = useLive((state) => state.links.find(({ id }) => id === onBench?.linkId)) ?? main;
  const evidence = useLive((state) => state.evidence);
  const kit = useLive((state) => state.kit);
  const isInternetOpen = useLive(({ internet }) => internet.phase === 'in');
  const hasInternetWay = useLive(
    ({ internet }) => internet.phase === 'in' && internet.settings?.sends === true,
  );
  const nowMs = useNow(1000);
  return useMemo(() => {
    const chain = onBench ?? (link && unnamedChain(link.id, link.settings.name));
    if (!chain) return undefined;
    const endsElsewhere = !chain.parts.at(-1)?.app?.isMistpeak;
    const joined = joinedChain(chain, kit);
    const mine = evidence.filter(isOf(chain, endsElsewhere ? undefined : link));
    const situation = {
      isOpen: link !== undefined && isOpen(link),
      isMoving: chain.isMoving,
      ...(link?.openedAtMs === undefined ? {} : { openedAtMs: link.openedAtMs }),
      endsElsewhere,
      seesInternet: isInternetOpen || mine.some(({ rung }) => rung === 'at a gateway'),
      hasInternetWay,
      isSound:
        (joined !== undefined && isSoundChain(joined)) || (link !== undefined && isSound(link.settings)),
    };
    return {
      chain,
      endsElsewhere,
      camps: climb(chain.purpose, mine, situation, nowMs),
      ...(link && !endsElsewhere ? { link } : {}),
      ...(joined ? { joined } : {}),
    };
  }, [link, onBench, kit, evidence, isInternetOpen, hasInternetWay, nowMs]);
}

const isOf =
  (chain: ChainView, link: LinkView | undefined) =>
  ({ linkId, chainId }: Evidence): boolean =>
    link ? linkId === link.id : chainId === chain.id;

/** A saved chain with its parts as they are in the kit now. */
export function joinedChain({ parts, purpose, radioPort }: ChainView, kit: LiveKit): Chain | undefined {
  return followChain(
    parts.map((part) => kit.find(({ id }) => id === part.id) ?? part),
    purpose,
    radioPort,
  );
}

type LiveKit = ReturnType<typeof useLive.getState>['kit'];
