import { useEffect, useMemo, useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parsePlace } from '@mistpeak/core/geo/place';
import { composeLab, type Composition, type KnownSite } from '@mistpeak/core/path-lab/compose';
import type { HeardNetwork } from '@mistpeak/core/path-lab/heard-network';
import type { Problem } from '@mistpeak/contract/failures';
import type { SiteView } from '@mistpeak/contract/path-lab';
import { keepAsking } from '../../live/keep-asking';
import { useMainLink } from '../../live/main-link';
import { useLive } from '../../live/store';

/** What the journal of the last hours tells; asked for when the page comes up and when asked again. */
export function useHeardNetwork(hours: number): {
  network: HeardNetwork | undefined;
  problem: Problem | undefined;
  again: () => void;
} {
  const [network, setNetwork] = useState<HeardNetwork>();
  const [problem, setProblem] = useState<Problem>();
  const [asked, setAsked] = useState(0);
  useEffect(() => {
    return keepAsking(`/path-lab/network?hours=${hours}`, setNetwork, setProblem);
  }, [hours, asked]);
  return { network, problem, again: () => setAsked((count) => count + 1) };
}

export const JOURNAL_HOURS = 24;

/** The channel as it was known when the journal was read: it stands still until that is read again, and so does every answer. */
export function useComposition(
  network: HeardNetwork | undefined,
  frequencyMHz: number,
): Composition | undefined {
  const sites = useLive((state) => state.sites);
  const own = useLive((state) => state.ownStations);
  const airRate = useMainLink()?.settings.airRate ?? 1200;
  return useMemo(() => {
    if (!network) return undefined;
    const seen = [...useLive.getState().stations.values()].map(({ name, position, symbol, speedMps }) => ({
      name,
      position,
      symbolCode: symbol?.code,
      speedMps,
    }));
    const calls = own.map(({ call }) => call);
    return composeLab(network, seen, sites.flatMap(knownSite), calls, { frequencyMHz, airRate });
  }, [network, sites, own, frequencyMHz, airRate]);
}

export function knownSite({ place, ...site }: SiteView): KnownSite[] {
  const position = parsePlace(place);
  return isMalformed(position) ? [] : [{ ...site, position }];
}
