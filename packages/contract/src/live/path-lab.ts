import type { TileView } from '../elevation.js';
import type { SiteView } from '../path-lab.js';

/** What is known of the ground, and of the stations by hand. */
export interface PathLabSnapshot {
  readonly tiles: readonly TileView[];
  readonly sites: readonly SiteView[];
}

export interface PathLabEvents {
  tiles: readonly TileView[];
  sites: readonly SiteView[];
}
