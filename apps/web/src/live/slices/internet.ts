import type { InternetView } from '@mistpeak/contract/internet';
import type { InternetEvents } from '@mistpeak/contract/live/internet';
import type { Slice } from './slice';

export interface InternetState {
  readonly internet: InternetView;
}

export const internet: Slice<InternetState, keyof InternetEvents> = {
  empty: {
    internet: {
      phase: 'off',
      counts: { lines: 0, packets: 0, duplicates: 0, unreadable: 0, tooLong: 0, sent: 0 },
      ways: [],
    },
  },
  ofSnapshot: ({ internet: view }) => ({ internet: view }),
  on: { internet: (_, view) => ({ internet: view }) },
};
