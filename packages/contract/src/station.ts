import type { Station } from '@mistpeak/core/stations/station';

/** A station as the fold knows it; distance and bearing are reckoned where they are shown. */
export type StationView = Station;

/** Time (ms since 1970), latitude, longitude in degrees; whether it came by the internet. */
export type TrackPoint = readonly [
  atMs: number,
  latitudeDeg: number,
  longitudeDeg: number,
  byInternet?: true,
];

/** Where one station or object was, oldest first. */
export interface Track {
  readonly name: string;
  readonly points: readonly TrackPoint[];
}
