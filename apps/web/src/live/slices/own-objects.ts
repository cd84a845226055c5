import type { OwnObjectsEvents } from '@mistpeak/contract/live/own-objects';
import type { OwnObjectView } from '@mistpeak/contract/own-objects';
import type { Slice } from './slice';

export interface OwnObjectsState {
  readonly ownObjects: readonly OwnObjectView[];
}

export const ownObjects: Slice<OwnObjectsState, keyof OwnObjectsEvents> = {
  empty: { ownObjects: [] },
  ofSnapshot: (snapshot) => ({ ownObjects: snapshot.ownObjects }),
  on: { ownObjects: (_, now) => ({ ownObjects: now }) },
};
