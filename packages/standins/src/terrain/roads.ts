import TinyQueue from 'tinyqueue';
import type { Position } from '@mistpeak/core/geo/position';
import type { Island } from './island.js';
import { PLACES } from './places.js';
import { between, toPosition, toSpot, type Spot } from './plane.js';

const CELL_KM = 0.3;
const COLUMNS = Math.ceil(50 / CELL_KM);
const ROWS = Math.ceil(34 / CELL_KM);
/** How dear climbing is: a slope of 1 in 8 costs as much as five times the way. */
const CLIMB = 250;

export interface Road {
  readonly name: string;
  readonly kind: 'road' | 'track';
  readonly way: readonly Spot[];
}

/** Which places are joined; a road is found on the ground, by the way of least climbing. */
const JOINED: readonly [string, Road['kind'], ...(keyof typeof PLACES)[]][] = [
  ['harbour road', 'road', 'portVelan', 'baseHut', 'sallomere', 'ostrick'],
  ['valley road', 'road', 'portVelan', 'netherQuill'],
  ['east road', 'road', 'sallomere', 'weatherPoint'],
  ['peak track', 'track', 'baseHut', 'mistpeak'],
  ['head track', 'track', 'sallomere', 'anrickHead'],
  ['west track', 'track', 'netherQuill', 'corvelTop'],
];

export function makeRoads(island: Island): Road[] {
  const heights = Array.from({ length: COLUMNS * ROWS }, (_, i) => island.ground(toPosition(spotOf(i))));
  return JOINED.map(([name, kind, ...places]) => {
    const parts = places.slice(1).map((to, i) => {
      const from = PLACES[places[i] as keyof typeof PLACES];
      return leastClimb(heights, toSpot(from), toSpot(PLACES[to]));
    });
    return { name, kind, way: parts.flatMap((part, i) => (i === 0 ? part : part.slice(1))) };
  });
}

/** Dijkstra over the grid, eight neighbours; the sea is no ground. */
function leastClimb(heights: readonly number[], from: Spot, to: Spot): Spot[] {
  const [start, goal] = [cellOf(from), cellOf(to)];
  const cost = new Map<number, number>([[start, 0]]);
  const cameFrom = new Map<number, number>();
  const open = new TinyQueue([{ cell: start, cost: 0 }], (a, b) => a.cost - b.cost);
  for (let next = open.pop(); next && next.cell !== goal; next = open.pop()) {
    if (next.cost > (cost.get(next.cell) as number)) continue;
    for (const cell of neighbours(next.cell)) {
      if ((heights[cell] as number) <= 1) continue;
      const km = between(spotOf(next.cell), spotOf(cell));
      const slope = ((heights[cell] as number) - (heights[next.cell] as number)) / 1000 / km;
      const total = next.cost + km * (1 + CLIMB * slope * slope);
      if (total >= (cost.get(cell) ?? Infinity)) continue;
      cost.set(cell, total);
      cameFrom.set(cell, next.cell);
      open.push({ cell, cost: total });
    }
  }
  const cells = [goal];
  for (let cell = cameFrom.get(goal); cell !== undefined && cell !== start; cell = cameFrom.get(cell))
    cells.push(cell);
  const inner = cells.slice(1).reverse().map(spotOf);
  return rounded(rounded([from, ...inner, to]));
}

function neighbours(cell: number): number[] {
  const [column, row] = [cell % COLUMNS, Math.floor(cell / COLUMNS)];
  const around = [-1, 0, 1].flatMap((dy) => [-1, 0, 1].map((dx) => [column + dx, row + dy] as const));
  return around
    .filter(([c, r]) => c >= 0 && c < COLUMNS && r >= 0 && r < ROWS)
    .map(([c, r]) => r * COLUMNS + c)
    .filter((other) => other !== cell);
}

function cellOf({ x, y }: Spot): number {
  return Math.round((y + 17) / CELL_KM) * COLUMNS + Math.round((x + 25) / CELL_KM);
}

function spotOf(cell: number): Spot {
  return { x: (cell % COLUMNS) * CELL_KM - 25, y: Math.floor(cell / COLUMNS) * CELL_KM - 17 };
}

/** Chaikin's corner cutting: each corner becomes two. */
function rounded(way: readonly Spot[]): Spot[] {
  const cut = way.slice(1).flatMap((b, i) => {
    const a = way[i] as Spot;
    const mix = (t: number): Spot => ({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t });
    return [mix(0.25), mix(0.75)];
  });
  return [way[0] as Spot, ...cut, way.at(-1) as Spot];
}

export function positionsOf(way: readonly Spot[]): Position[] {
  return way.map(toPosition);
}
