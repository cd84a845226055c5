import type { PmtilesHeader } from '@mistpeak/core/pmtiles/header';

/** What a tile archive is sent as: in one stream of any length. */
export const MAP_TYPE = 'application/vnd.pmtiles';

/** A map file of the operator's own. */
export interface MapView extends Pick<
  PmtilesHeader,
  'tiles' | 'minZoom' | 'maxZoom' | 'west' | 'south' | 'east' | 'north'
> {
  /** Its file, `hollin.pmtiles`. */
  readonly name: string;
  readonly octets: number;
}
