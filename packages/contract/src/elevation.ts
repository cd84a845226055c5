/** A tile of elevation that the server keeps, named by its south-west corner; size: heights along an edge. */
export interface TileView {
  readonly name: string;
  readonly size: number;
}

/** How a tile is sent and given: as the file holds it. */
export const TILE_TYPE = 'application/octet-stream';
