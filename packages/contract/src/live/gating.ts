import type { GatingView } from '../gating.js';

/** What is passed on for others. */
export interface GatingSnapshot {
  readonly gating: GatingView;
}

export interface GatingEvents {
  gating: GatingView;
}
