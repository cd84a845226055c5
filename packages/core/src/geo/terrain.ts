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

/** The least length of a degree of latitude on WGS-84, km. */
const KM_PER_DEGREE = 110.57;

/** The tiles that hold all ways between these places, and so many km round each, as their files are named. */
export function tilesBetween(places: readonly Position[], radiusKm = 0): string[] {
  if (places.length === 0) return [];
  const latitudes = places.map(({ latitudeDeg }) => latitudeDeg);
  const longitudes = places.map(({ longitudeDeg }) => longitudeDeg);
  const up = radiusKm / KM_PER_DEGREE;
  const furthestDeg = Math.max(...latitudes.map(Math.abs));
  const aside = up / Math.max(0.01, Math.cos((furthestDeg * Math.PI) / 180));
  const names: string[] = [];
  for (let south = Math.floor(Math.min(...latitudes) - up); south <= Math.max(...latitudes) + up; south++)
    for (
      let west = Math.floor(Math.min(...longitudes) - aside);
      west <= Math.max(...longitudes) + aside;
      west++
    )
      names.push(tileName({ southDeg: south, westDeg: west }));
  return names;
}
