import type { DepartureView } from '@mistpeak/contract/departure';
import type { DepartureEvents } from '@mistpeak/contract/live/departure';
import type { Slice } from './slice';

export interface DepartureState {
  readonly departure: DepartureView;
}

export const departure: Slice<DepartureState, keyof DepartureEvents> = {
  empty: { departure: { done: {}, startsByItself: false } },
  ofSnapshot: (snapshot) => ({ departure: snapshot.departure }),
  on: { departure: (_, now) => ({ departure: now }) },
};
