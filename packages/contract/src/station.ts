import type { Station } from '@mistpeak/core/stations/station';

/** A station as the fold knows it; distance and bearing are reckoned where they are shown. */
export type StationView = Station;
