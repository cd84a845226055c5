import type { ChainView, TickView } from '../chain.js';
import type { KitView } from '../kit.js';
import type { EvidenceView } from '../proof.js';
import type { TrialView } from '../record.js';

/** What is owned, built of it, done for it, and proved. */
export interface ChainsSnapshot {
  readonly kit: KitView;
  readonly chains: readonly ChainView[];
  /** The last word on each step of each sheet. */
  readonly ticks: readonly TickView[];
  readonly trials: readonly TrialView[];
  readonly evidence: readonly EvidenceView[];
}

export interface ChainsEvents {
  kit: KitView;
  chains: readonly ChainView[];
  tick: TickView;
  trials: readonly TrialView[];
  evidence: EvidenceView;
}
