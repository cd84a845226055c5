/** A plate on the map: where, in map units, and what stands above what: the higher rank. */
export interface Plate {
  readonly name: string;
  readonly x: number;
  readonly y: number;
  readonly rank: number;
}

/**
 * Plates that stand in one another's place. Of those the highest keeps its name and tells how many are beneath it; the
 * others keep theirs to themselves, since it would be read as the name of the plate on top.
 * Returns how many each covers, −1 for the covered; those that stand alone are left out. distance in map units.
 */
export function coverings(plates: readonly Plate[], distance: number): Map<string, number> {
  const cells = new Map<string, Plate[]>();
  const cellOf = (value: number): number => Math.floor(value / distance);
  const found = new Map<string, number>();
  for (const plate of [...plates].sort((a, b) => b.rank - a.rank || (a.name < b.name ? -1 : 1))) {
    const [column, row] = [cellOf(plate.x), cellOf(plate.y)];
    const above = neighbours(cells, column, row).find(
      (other) => Math.hypot(other.x - plate.x, other.y - plate.y) < distance,
    );
    if (above) {
      found.set(plate.name, -1);
      found.set(above.name, (found.get(above.name) ?? 0) + 1);
      continue;
    }
    const key = `${column} ${row}`;
    cells.set(key, [...(cells.get(key) ?? []), plate]);
  }
  return found;
}

function neighbours(cells: ReadonlyMap<string, Plate[]>, column: number, row: number): Plate[] {
  const steps = [-1, 0, 1];
  return steps.flatMap((dx) => steps.flatMap((dy) => cells.get(`${column + dx} ${row + dy}`) ?? []));
}
