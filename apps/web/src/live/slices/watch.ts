import type { Sighting } from '@mistpeak/core/watch/sighting';
import type { WatchEvents } from '@mistpeak/contract/live/watch';
import type { DutyEntry, WatchView } from '@mistpeak/contract/watch';
import { mapBy, withEntry, type Slice } from './slice';

/** As many lines of the duty log as a page keeps at hand. */
const MOST_ENTRIES = 60;

export interface WatchState {
  readonly watch: WatchView | undefined;
  readonly sightings: ReadonlyMap<string, Sighting>;
  readonly duty: readonly DutyEntry[];
}

const byCall = (views: WatchEvents['sightings']): ReadonlyMap<string, Sighting> =>
  new Map([...mapBy(views, ({ call }) => call)].map(([call, { sighting }]) => [call, sighting]));

export const watch: Slice<WatchState, keyof WatchEvents> = {
  empty: { watch: undefined, sightings: new Map(), duty: [] },
  ofSnapshot: ({ watch, sightings, duty }) => ({ watch, sightings: byCall(sightings), duty }),
  on: {
    watch: (_, watch) => ({ watch }),
    sightings: (_, sightings) => ({ sightings: byCall(sightings) }),
    sighted: (state, { call, sighting }) => ({ sightings: withEntry(state.sightings, call, sighting) }),
    duty: (state, entry) => ({ duty: [...state.duty, entry].slice(-MOST_ENTRIES) }),
  },
};
