import { useEffect, useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parsePlace } from '@mistpeak/core/geo/place';
import { composeLab, type Composition, type KnownSite } from '@mistpeak/core/path-lab/compose';
import type { HeardNetwork } from '@mistpeak/core/path-lab/heard-network';
import type { Problem } from '@mistpeak/contract/failures';
import type { SiteView } from '@mistpeak/contract/path-lab';
import { command, problemOf } from '../../api';
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
    let isGone = false;
    command<HeardNetwork>('GET', `/path-lab/network?hours=${hours}`)
      .then((answer) => {
        if (isGone) return;
        setNetwork(answer);
        setProblem(undefined);
      })
      .catch((error: unknown) => !isGone && setProblem(problemOf(error)));
    return () => {
      isGone = true;
    };
  }, [hours, asked]);
  return { network, problem, again: () => setAsked((count) => count + 1) };
}

export const JOURNAL_HOURS = 24;

/** The channel as it is known now. */
export function useComposition(
  network: HeardNetwork | undefined,
  frequencyMHz: number,
): Composition | undefined {
  const stations = useLive((state) => state.stations);
  const sites = useLive((state) => state.sites);
  const own = useLive((state) => state.ownStations);
  const link = useMainLink();
  if (!network) return undefined;
  const seen = [...stations.values()].map(({ name, position, symbol, speedMps }) => ({
    name,
    position,
    symbolCode: symbol?.code,
    speedMps,
  }));
  return composeLab(
    network,
    seen,
    sites.flatMap(knownSite),
    own.map(({ call }) => call),
    {
      frequencyMHz,
      airRate: link?.settings.airRate ?? 1200,
    },
  );
}

export function knownSite({ place, ...site }: SiteView): KnownSite[] {
  const position = parsePlace(place);
  return isMalformed(position) ? [] : [{ ...site, position }];
}
