import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const MINUTE_MS = 60_000;
const DESK = '145.500 MHz';

interface Line {
  readonly call: string;
  readonly label: string;
  readonly group: string;
  readonly everyMin: number;
  readonly leg?: string;
  readonly offM?: number;
  readonly stillMin?: number;
}

const cart = (letter: string, load: string, leg: string): Line => ({
  call: `QH7CT${letter}-9`,
  label: `Cart ${letter}, ${load}`,
  group: 'carts',
  everyMin: 5,
  leg,
  offM: 600,
  stillMin: 60,
});
const team = (letter: string, hide: string): Line => ({
  call: `QH8CL${letter}-7`,
  label: `Team ${letter}, ${hide}`,
  group: 'teams',
  everyMin: 10,
});
const boat = (letter: string, water: string, more: Partial<Line> = {}): Line => ({
  call: `QH8BT${letter}-8`,
  label: `Boat ${letter}, ${water}`,
  group: 'boats',
  everyMin: 8,
  ...more,
});

/** Who is out on the third day of the count, and what is expected of them. */
const LINES: readonly Line[] = [
  cart('A', 'lamps and water', 'valley road'),
  cart('B', 'food', 'east road'),
  cart('C', 'supplies for hide 2', 'harbour road'),
  { ...cart('D', 'tents for Corvel crag', ''), leg: '', stillMin: 90 },
  cart('E', 'batteries', 'head track'),
  cart('F', 'tents', 'west track'),
  team('A', 'hide 1'),
  team('B', 'hide 3'),
  team('C', 'hide 4'),
  team('D', 'hide 5'),
  boat('A', 'south water'),
  boat('B', 'north water', { leg: 'north-east water', offM: 400 }),
];
/** Cart D was to be at the crag by then. */
const CRAG = '29.5639 S 11.5445 W';
const LATE_MIN = 25;

const corner = (latitudeDeg: number, longitudeDeg: number): object => ({ latitudeDeg, longitudeDeg });
const WATER = {
  name: 'north-east water',
  kind: 'area',
  points: [corner(-29.4, -11.38), corner(-29.4, -11.14), corner(-29.6, -11.14), corner(-29.55, -11.38)],
};

interface Way {
  readonly properties: { readonly kind?: string; readonly name?: string };
  readonly geometry: { readonly type: string; readonly coordinates: readonly (readonly [number, number])[] };
}

/** The roads of the island’s own map, as an operator would take them from a file. */
function roads(mapFolder: string): object[] {
  const file = join(mapFolder, 'island.geojson');
  if (!existsSync(file)) return [];
  const { features } = JSON.parse(readFileSync(file, 'utf8')) as { features: readonly Way[] };
  return features
    .filter(({ properties: { kind = '' } }) => ['road', 'track'].includes(kind))
    .map(({ properties: { name }, geometry: { coordinates } }) => ({
      name,
      kind: 'route',
      points: coordinates.map(([longitudeDeg, latitudeDeg]) => corner(latitudeDeg, longitudeDeg)),
    }));
}

/** The event desk of the seabird count. */
export async function setUpWatch(
  call: (method: string, path: string, body?: unknown) => Promise<unknown>,
  mapFolder: string,
  nowMs: number,
): Promise<void> {
  const legs = [...roads(mapFolder), WATER];
  const names = new Set(legs.map((leg) => (leg as { name: string }).name));
  const watched = LINES.map(({ leg = '', ...line }) => ({
    contact: DESK,
    offM: 500,
    finish: '',
    finishRadiusM: 300,
    ...line,
    leg: names.has(leg) ? leg : '',
    ...(line.call === 'QH7CTD-9' ? { finish: CRAG, dueAtMs: nowMs - LATE_MIN * MINUTE_MS } : {}),
  }));
  await call('PUT', '/watch/settings', { name: 'Hollin Seabird Count', watched, legs });
  await call('POST', '/watch/begin');
}
