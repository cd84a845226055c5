import type { PracticeEvents, PracticeNow } from '@mistpeak/contract/live/practice';
import type { Slice } from './slice';

export interface PracticeState {
  readonly practised: PracticeNow | null;
}

export const practice: Slice<PracticeState, keyof PracticeEvents> = {
  empty: { practised: null },
  ofSnapshot: (snapshot) => ({ practised: snapshot.practised }),
  on: { practised: (_, now) => ({ practised: now }) },
};
