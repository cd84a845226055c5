import { planChains, type Plan } from '@mistpeak/core/chain/plan';
import type { Trial } from '@mistpeak/core/chain/record';
import type { Item } from '@mistpeak/core/kit/item';
import type { Purpose } from '@mistpeak/core/proof/ladder';

export interface PlanRequest {
  readonly id: number;
  readonly kit: readonly Item[];
  readonly purpose: Purpose;
  readonly trials: readonly Trial[];
  readonly away: readonly Item[];
}

export interface PlanAnswer {
  readonly id: number;
  readonly plan: Plan;
}

/** Plans off the page's own thread: a large kit takes a while. */
self.onmessage = ({ data }: MessageEvent<PlanRequest>): void => {
  const plan = planChains(data.kit, data.purpose, data.trials, data.away);
  self.postMessage({ id: data.id, plan } satisfies PlanAnswer);
};
