import type { OwnObjectView } from '../own-objects.js';

/** What we have put on the map for others. */
export interface OwnObjectsSnapshot {
  readonly ownObjects: readonly OwnObjectView[];
}

export interface OwnObjectsEvents {
  ownObjects: readonly OwnObjectView[];
}
