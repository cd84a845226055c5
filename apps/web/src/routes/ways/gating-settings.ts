import { useMemo } from 'react';
import type { GatingSettings } from '@mistpeak/contract/gating';
import { useMainLink } from '../../live/main-link';
import { useLive } from '../../live/store';

/** As saved, or all off on the main link; version: none before the first saving. */
export function useGatingSettings(): { saved: GatingSettings; version: number | undefined } {
  const settings = useLive((state) => state.gating.settings);
  const linkId = useMainLink()?.id ?? '';
  return useMemo(() => {
    const { version, ...saved } = settings ?? {
      version: undefined,
      linkId,
      receiveGate: false,
      transmitGate: false,
      allowsAutomatic: false,
      mostPerMinute: 5,
      fillIn: false,
      isViscous: true,
      sharePercent: 5,
    };
    return { saved, version };
  }, [settings, linkId]);
}
