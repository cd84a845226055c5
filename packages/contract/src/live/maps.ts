import type { MapView } from '../maps.js';

/** The operator's own map files. */
export interface MapsSnapshot {
  readonly maps: readonly MapView[];
}

export interface MapsEvents {
  maps: readonly MapView[];
}
