import { heightAt, tileName, type ElevationTile } from './elevation-tile.js';
import type { Position } from './position.js';

/** Heights of the ground, where tiles tell them; elsewhere the sea's. */
export class Terrain {
  private readonly tiles: ReadonlyMap<string, ElevationTile>;

  constructor(tiles: readonly ElevationTile[]) {
    this.tiles = new Map(tiles.map((tile) => [tileName(tile), tile]));
  }

  /** m above the sea; 0 where no tile tells. */
  heightM(position: Position): number {
    const tile = this.tileAt(position);
    return tile ? heightAt(tile, position) : 0;
  }

  covers(position: Position): boolean {
    return this.tileAt(position) !== undefined;
  }

  private tileAt({ latitudeDeg, longitudeDeg }: Position): ElevationTile | undefined {
    const [southDeg, westDeg] = [Math.floor(latitudeDeg), Math.floor(longitudeDeg)];
    return this.tiles.get(tileName({ southDeg, westDeg }));
  }
}

/** The tiles that hold a way of so many km round a place, as their files are named. */
export function tilesAround({ latitudeDeg, longitudeDeg }: Position, radiusKm: number): string[] {
  const up = radiusKm / KM_PER_DEGREE;
  const aside = up / Math.max(0.01, Math.cos((latitudeDeg * Math.PI) / 180));
  const names = new Set<string>();
  for (let south = Math.floor(latitudeDeg - up); south <= latitudeDeg + up; south++)
    for (let west = Math.floor(longitudeDeg - aside); west <= longitudeDeg + aside; west++)
      names.add(tileName({ southDeg: south, westDeg: west }));
  return [...names];
}

/** The least length of a degree of latitude on WGS-84, km. */
const KM_PER_DEGREE = 110.57;
