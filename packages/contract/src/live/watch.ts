import type { DutyEntry, SightingView, WatchView } from '../watch.js';

/** Who is looked after. */
export interface WatchSnapshot {
  readonly watch: WatchView;
  readonly sightings: readonly SightingView[];
  /** The last lines of the duty log, oldest first. */
  readonly duty: readonly DutyEntry[];
}

export interface WatchEvents {
  watch: WatchView;
  /** All of them anew: the list, or the watch, is another one. */
  sightings: readonly SightingView[];
  sighted: SightingView;
  duty: DutyEntry;
}
