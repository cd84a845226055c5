import type { MapsEvents } from '@mistpeak/contract/live/maps';
import type { MapView } from '@mistpeak/contract/maps';
import type { Slice } from './slice';

export interface MapsState {
  readonly maps: readonly MapView[];
}

export const maps: Slice<MapsState, keyof MapsEvents> = {
  empty: { maps: [] },
  ofSnapshot: (snapshot) => ({ maps: snapshot.maps }),
  on: { maps: (_, now) => ({ maps: now }) },
};
