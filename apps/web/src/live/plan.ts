import { useEffect, useRef, useState } from 'react';
import type { Plan } from '@mistpeak/core/chain/plan';
import type { Item } from '@mistpeak/core/kit/item';
import type { Purpose } from '@mistpeak/core/proof/ladder';
import type { PlanAnswer, PlanRequest } from '../workers/plan.worker';
import { useLive } from './store';

/** What can be built of these items for that purpose, those away fetched; no plan while the first is being worked out. */
export function usePlan(
  kit: readonly Item[],
  away: readonly Item[],
  purpose: Purpose,
): { plan: Plan | undefined; isBusy: boolean } {
  const trials = useLive((state) => state.trials);
  const worker = useRef<Worker>(undefined);
  const [answer, setAnswer] = useState<PlanAnswer>();
  const [asked, setAsked] = useState(0);
  useEffect(() => {
    const made = new Worker(new URL('../workers/plan.worker.ts', import.meta.url), { type: 'module' });
    made.onmessage = ({ data }: MessageEvent<PlanAnswer>) => setAnswer(data);
    worker.current = made;
    return () => made.terminate();
  }, []);
  useEffect(() => {
    setAsked((id) => {
      worker.current?.postMessage({ id: id + 1, kit, purpose, trials, away } satisfies PlanRequest);
      return id + 1;
    });
  }, [kit, away, purpose, trials]);
  return { plan: answer?.plan, isBusy: answer?.id !== asked };
}
