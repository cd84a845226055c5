import type { SessionParameters } from '@mistpeak/core/throughput/session-parameters';
import { useMainLink } from '../../live/main-link';
import { useLive } from '../../live/store';

/** A call as it is written in a form. */
export interface Called {
  readonly to: string;
  readonly via: string;
  readonly from: string;
  readonly linkId: string;
  readonly frequencyMHz?: number;
  readonly parameters?: SessionParameters;
}

/** As the call in force on the main link, else as its station. */
export function useFirstCall(): Called {
  const link = useMainLink();
  const from = useLive(
    ({ locks, ownStations, operator }) =>
      (link && locks.get(link.id)?.call) ??
      ownStations.find(({ id }) => id === link?.settings.stationId)?.call ??
      operator?.call ??
      '',
  );
  return { to: '', via: '', from, linkId: link?.id ?? '' };
}
