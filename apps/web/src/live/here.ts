import { useMemo } from 'react';
import type { Moving } from '@mistpeak/core/geo/approach';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useNow } from './now';
import { useLive } from './store';

/** A fix that is older says no more where one is. */
const FRESH_MS = 60_000;

/** Where one is and goes: by a receiver's fresh fix, else standing at the operator's place. */
export function useHere({ position }: OperatorView): Moving | undefined {
  const fix = useLive((state) => state.whereabouts.fix);
  const nowMs = useNow(5000);
  const isFresh = fix !== undefined && nowMs - fix.atMs <= FRESH_MS;
  return useMemo(() => {
    if (fix && isFresh)
      return { position: fix.position, courseDeg: fix.courseDeg ?? 0, speedMps: fix.speedMps ?? 0 };
    return position ? { position, courseDeg: 0, speedMps: 0 } : undefined;
  }, [fix, isFresh, position]);
}
