import type { BeaconWayView } from '../beacon-ways.js';
import type { PlaceLabelView, WhereaboutsView } from '../whereabouts.js';

/** What leaves by itself, where we are, and the places that have names. */
export interface BeaconWaysSnapshot {
  readonly beaconWays: readonly BeaconWayView[];
  readonly whereabouts: WhereaboutsView;
  readonly places: readonly PlaceLabelView[];
}

export interface BeaconWaysEvents {
  'beacon-ways': readonly BeaconWayView[];
  whereabouts: WhereaboutsView;
  places: readonly PlaceLabelView[];
}
