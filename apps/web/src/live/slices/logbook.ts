import type { LogbookEvents } from '@mistpeak/contract/live/logbook';
import type { TripView } from '@mistpeak/contract/logbook';
import type { Slice } from './slice';

export interface LogbookState {
  readonly trips: readonly TripView[];
  readonly logbookRevision: number;
}

export const logbook: Slice<LogbookState, keyof LogbookEvents> = {
  empty: { trips: [], logbookRevision: 0 },
  ofSnapshot: ({ trips, logbookRevision }) => ({ trips, logbookRevision }),
  on: {
    trips: (_, trips) => ({ trips }),
    'logbook-revision': (_, logbookRevision) => ({ logbookRevision }),
  },
};
