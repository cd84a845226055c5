import { newestOfEach } from '@mistpeak/core/transmitting/newest-of-each';
import type { BeaconView, TransmissionView } from '@mistpeak/contract/beacon';
import type { LockView } from '@mistpeak/contract/link';
import type { SendingEvents } from '@mistpeak/contract/live/sending';
import { mapBy, replaceById, withEntry, type Slice } from './slice';

export interface SendingState {
  readonly locks: ReadonlyMap<string, LockView>;
  /** Newest first. */
  readonly transmissions: readonly TransmissionView[];
  readonly beacon: BeaconView | null;
}

export const sending: Slice<SendingState, keyof SendingEvents> = {
  empty: { locks: new Map(), transmissions: [], beacon: null },
  ofSnapshot: ({ locks, transmissions, beacon }) => ({
    locks: mapBy(locks, ({ linkId }) => linkId),
    transmissions,
    beacon,
  }),
  on: {
    lock: ({ locks }, lock) => ({ locks: withEntry(locks, lock.linkId, lock) }),
    transmission: ({ transmissions }, one) => ({
      transmissions: newestOfEach(replaceById(transmissions, one), ({ queuedAtMs }) => queuedAtMs),
    }),
    beacon: (_, beacon) => ({ beacon }),
  },
};
