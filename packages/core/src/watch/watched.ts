import type { Position } from '../geo/position.js';

/** A way that is to be kept to, or ground that is not to be left; its name is how the list speaks of it. */
export interface Leg {
  readonly name: string;
  readonly kind: 'route' | 'area';
  /** Of a route in order; of an area its corners, not closed. */
  readonly points: readonly Position[];
}

/** Where a way ends, and by when one is to be there. dueAtMs: since 1970 UTC. */
export interface Finish {
  readonly place: Position;
  readonly radiusM: number;
  readonly dueAtMs?: number;
}

/** One who is looked after. call: of a station, or the name of an object. Times in ms, lengths in metres. */
export interface Watched {
  readonly call: string;
  /** What people call them: `Cart A, lamps`. */
  readonly label: string;
  readonly group: string;
  /** How they are reached by voice: a number, or a channel. */
  readonly contact: string;
  /** How often a packet of theirs is expected. */
  readonly everyMs: number;
  /** Standing still for longer than this is worth a question; absent: they may. */
  readonly stillMs?: number;
  readonly leg?: Leg;
  /** So far off the leg is still on it. */
  readonly offM: number;
  readonly finish?: Finish;
}
