import type { GatingView } from '@mistpeak/contract/gating';
import type { GatingEvents } from '@mistpeak/contract/live/gating';
import type { Slice } from './slice';

export interface GatingState {
  readonly gating: GatingView;
}

const NONE = { passed: 0, refused: {} };

export const gating: Slice<GatingState, keyof GatingEvents> = {
  empty: {
    gating: { counts: { 'to the internet': NONE, 'to radio': NONE, repeated: NONE }, decisions: [] },
  },
  ofSnapshot: ({ gating: view }) => ({ gating: view }),
  on: { gating: (_, view) => ({ gating: view }) },
};
