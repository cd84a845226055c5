import type { LevelResult } from '@mistpeak/contract/levels';
import { useLive } from './store';
import { useNow } from './now';

const DAY_MS = 86_400_000;

/** The last receive check of a day at most, since which the radio was not off; of that link, where one is named. */
export function useLastLevel(linkId?: string): LevelResult | undefined {
  const results = useLive((state) => state.levelResults);
  const nowMs = useNow(60_000);
  const last = results.find(
    (one) =>
      (one.check === 'receive' || one.check === 'radio was off') &&
      (linkId === undefined || one.linkId === linkId),
  );
  return last?.check === 'receive' && nowMs - last.atMs < DAY_MS ? last : undefined;
}
