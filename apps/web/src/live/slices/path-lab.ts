import type { TileView } from '@mistpeak/contract/elevation';
import type { PathLabEvents } from '@mistpeak/contract/live/path-lab';
import type { SiteView } from '@mistpeak/contract/path-lab';
import type { Slice } from './slice';

export interface PathLabState {
  readonly tiles: readonly TileView[];
  readonly sites: readonly SiteView[];
}

export const pathLab: Slice<PathLabState, keyof PathLabEvents> = {
  empty: { tiles: [], sites: [] },
  ofSnapshot: ({ tiles, sites }) => ({ tiles, sites }),
  on: { tiles: (_, tiles) => ({ tiles }), sites: (_, sites) => ({ sites }) },
};
