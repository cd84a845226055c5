import type { BeaconWayView } from '@mistpeak/contract/beacon-ways';
import type { BeaconWaysEvents } from '@mistpeak/contract/live/beacon-ways';
import type { PlaceLabelView, WhereaboutsView } from '@mistpeak/contract/whereabouts';
import type { Slice } from './slice';

export interface BeaconWaysState {
  readonly beaconWays: readonly BeaconWayView[];
  readonly whereabouts: WhereaboutsView;
  readonly places: readonly PlaceLabelView[];
}

export const beaconWays: Slice<BeaconWaysState, keyof BeaconWaysEvents> = {
  empty: {
    beaconWays: [],
    whereabouts: { receiver: { kind: 'none', version: 0 }, state: 'none' },
    places: [],
  },
  ofSnapshot: ({ beaconWays, whereabouts, places }) => ({ beaconWays, whereabouts, places }),
  on: {
    'beacon-ways': (_, beaconWays) => ({ beaconWays }),
    whereabouts: (_, whereabouts) => ({ whereabouts }),
    places: (_, places) => ({ places }),
  },
};
