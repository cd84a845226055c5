import type { DepartureView } from '../departure.js';

/** What is seen to before leaving. */
export interface DepartureSnapshot {
  readonly departure: DepartureView;
}

export interface DepartureEvents {
  departure: DepartureView;
}
