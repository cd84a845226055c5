/** A path that people use, and what for (common practice, no source). path: as it is typed, '' for none. */
export interface UsualPath {
  readonly id: string;
  readonly name: string;
  readonly path: string;
  readonly goodFor: string;
}

/** The schools of paths: what the setup sheet offers, and the path lab tries side by side. */
export const USUAL_PATHS = [
  {
    id: 'mobile',
    name: 'two hops',
    path: 'WIDE1-1,WIDE2-1',
    goodFor: 'whoever moves, or stands low; a fill-in and one wide digipeater',
  },
  {
    id: 'placed',
    name: 'one wide hop',
    path: 'WIDE2-1',
    goodFor: 'a fixed station that a wide digipeater hears',
  },
  {
    id: 'placedTwo',
    name: 'two from a good place',
    path: 'WIDE2-2',
    goodFor: 'a high place without fill-ins near; twice the copies',
  },
  {
    id: 'dense',
    name: 'first hop only',
    path: 'WIDE1-1',
    goodFor: 'many stations and digipeaters near',
  },
  {
    id: 'three',
    name: 'three hops',
    path: 'WIDE3-3',
    goodFor: 'empty country only; it fills the channel far away',
  },
  {
    id: 'none',
    name: 'no path',
    path: '',
    goodFor: 'a gateway or listeners in direct reach',
  },
] as const satisfies readonly UsualPath[];
