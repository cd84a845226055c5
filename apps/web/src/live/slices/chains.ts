import type { Item } from '@mistpeak/core/kit/item';
import type { ChainView, TickView } from '@mistpeak/contract/chain';
import type { ChainsEvents } from '@mistpeak/contract/live/chains';
import type { EvidenceView } from '@mistpeak/contract/proof';
import type { TrialView } from '@mistpeak/contract/record';
import { mapBy, withEntry, type Slice } from './slice';

const MOST_EVIDENCE = 500;

export interface ChainsState {
  readonly kit: readonly Item[];
  /** Of each item of the kit, by its id. */
  readonly kitVersions: Readonly<Record<string, number>>;
  /** Newest first. */
  readonly chains: readonly ChainView[];
  /** The last word on each step of each sheet, by chain and step. */
  readonly ticks: ReadonlyMap<string, TickView>;
  /** Newest first. */
  readonly trials: readonly TrialView[];
  /** The last few of each rung and link, oldest first. */
  readonly evidence: readonly EvidenceView[];
}

export const chains: Slice<ChainsState, keyof ChainsEvents> = {
  empty: { kit: [], kitVersions: {}, chains: [], ticks: new Map(), trials: [], evidence: [] },
  ofSnapshot: ({ kit, chains, ticks, trials, evidence }) => ({
    kit: kit.items,
    kitVersions: kit.versions,
    chains,
    ticks: mapBy(ticks, tickKey),
    trials,
    evidence,
  }),
  on: {
    kit: (_, { items, versions }) => ({ kit: items, kitVersions: versions }),
    chains: (_, chains) => ({ chains }),
    tick: ({ ticks }, tick) => ({ ticks: withEntry(ticks, tickKey(tick), tick) }),
    trials: (_, trials) => ({ trials }),
    evidence: ({ evidence }, one) => ({ evidence: [...evidence, one].slice(-MOST_EVIDENCE) }),
  },
};

export function tickKey({ chainId, stepId }: Pick<TickView, 'chainId' | 'stepId'>): string {
  return `${chainId} ${stepId}`;
}
