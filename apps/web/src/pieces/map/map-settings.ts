import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** What lies on the map, as this browser wants it. */
export interface MapSettings {
  readonly graticule: boolean;
  readonly locators: boolean;
  readonly rings: boolean;
  /** How far stations say that they reach. */
  readonly ranges: boolean;
  /** Where what moves is by now, straight on. */
  readonly ahead: boolean;
  readonly hills: boolean;
  readonly contours: boolean;
  /** Map files that are not shown, by name. */
  readonly without: readonly string[];
  readonly trackHours: number;
}

export const TRACK_HOURS = [1, 3, 12, 24] as const;

export const useMapSettings = create<MapSettings>()(
  persist(
    (): MapSettings => ({
      graticule: true,
      locators: false,
      rings: false,
      ranges: false,
      ahead: true,
      hills: true,
      contours: false,
      without: [],
      trackHours: 3,
    }),
    { name: 'map' },
  ),
);
