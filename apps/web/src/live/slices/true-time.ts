import type { TrueTimeEvents } from '@mistpeak/contract/live/true-time';
import type { TrueTimeView } from '@mistpeak/contract/true-time';
import type { Slice } from './slice';

export interface TrueTimeState {
  readonly trueTime: TrueTimeView;
  /** Server time less page time, ms: ages are reckoned by the server's clock. */
  readonly clockOffsetMs: number;
}

export const trueTime: Slice<TrueTimeState, keyof TrueTimeEvents> = {
  empty: { trueTime: { correctedByMs: 0, stretches: [] }, clockOffsetMs: 0 },
  ofSnapshot: (snapshot) => ({
    trueTime: snapshot.trueTime,
    clockOffsetMs: snapshot.nowMs - Date.now(),
  }),
  on: {
    // The server’s clock has been put right: ours goes with it.
    trueTime: (state, now) => ({
      trueTime: now,
      clockOffsetMs: state.clockOffsetMs + now.correctedByMs - state.trueTime.correctedByMs,
    }),
  },
};
