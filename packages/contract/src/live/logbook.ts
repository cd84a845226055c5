import type { TripView } from '../logbook.js';

/** Trips; the stream is asked for by pages, and again when its number grows. */
export interface LogbookSnapshot {
  readonly trips: readonly TripView[];
  readonly logbookRevision: number;
}

export interface LogbookEvents {
  trips: readonly TripView[];
  'logbook-revision': number;
}
