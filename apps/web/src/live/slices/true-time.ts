import type { TrueTimeEvents } from '@mistpeak/contract/live/true-time';
import type { TrueTimeView } from '@mistpeak/contract/true-time';
import type { Slice } from './slice';

export interface TrueTimeState {
  readonly trueTime: TrueTimeView;
}

export const trueTime: Slice<TrueTimeState, keyof TrueTimeEvents> = {
  empty: { trueTime: { correctedByMs: 0, stretches: [] } },
  ofSnapshot: (snapshot) => ({ trueTime: snapshot.trueTime }),
  on: { trueTime: (_, now) => ({ trueTime: now }) },
};
