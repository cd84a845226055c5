import type { StationEvents, StationSnapshot } from '@mistpeak/contract/live/station';
import type { Slice } from './slice';

export type StationState = StationSnapshot;

export const station: Slice<StationState, keyof StationEvents> = {
  empty: { operator: null, ownStations: [] },
  ofSnapshot: ({ operator, ownStations }) => ({ operator, ownStations }),
  on: {
    operator: (_, operator) => ({ operator }),
    'own-stations': (_, ownStations) => ({ ownStations }),
  },
};
