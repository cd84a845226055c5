import { placeAt, wayTo } from '@mistpeak/core/geo/position';
import type { StationView } from '@mistpeak/contract/station';
import { toLonLat } from 'ol/proj';
import { degreesText } from './land-layers';
import { aheadOf, circleRound } from './ring-layer';
import { groundOf } from './ground';

const HUT = { latitudeDeg: -29.632, longitudeDeg: -11.405 };
const NOW = Date.UTC(2026, 3, 18, 12);

describe('what a feature of a map file is', () => {
  it.each([
    ['earth', '', 'land'],
    ['water', 'ocean', 'water'],
    ['water', 'river', 'stream'],
    ['waterway', '', 'stream'],
    ['landcover', 'forest', 'wood'],
    ['landuse', 'residential', 'built'],
    ['landuse', 'farm', undefined],
    ['building', '', 'building'],
    ['roads', 'major_road', 'road'],
    ['transportation', 'path', 'track'],
    ['boundaries', 'country', 'border'],
    ['places', 'locality', 'place'],
    ['pois', 'peak', 'summit'],
    ['pois', 'cafe', undefined],
    ['unheard of', '', undefined],
  ])('%s, %s: %s', (layer, kind, ground) => expect(groundOf(layer, kind)).toBe(ground));
});

it.each([
  [-29.6, 'decimal', '29.6°'],
  [-29.6, 'minutes', '29° 36′'],
  [11, 'minutes', '11°'],
  [11.999, 'minutes', '12°'],
  [0.05, 'locator', '0.05°'],
] as const)('%d in %s is %s', (degrees, form, text) => expect(degreesText(degrees, form)).toBe(text));

it('a circle lies over the ground, each of its points as far as the others', () => {
  for (const point of circleRound(HUT, 20)) {
    const [longitudeDeg = 0, latitudeDeg = 0] = toLonLat(point);
    expect(wayTo(HUT, { latitudeDeg, longitudeDeg }).distanceKm).toBeCloseTo(20, 6);
  }
});

describe('where a station is by now', () => {
  const station = (more: Partial<StationView>): StationView =>
    ({
      kind: 'station',
      position: HUT,
      positionAtMs: NOW - 300_000,
      courseDeg: 90,
      speedMps: 10,
      ...more,
    }) as StationView;

  it('straight on since its last position', () => {
    const { to } = aheadOf(station({}), NOW) ?? { to: HUT };
    expect(wayTo(to, placeAt(HUT, 3, 90)).distanceKm).toBeLessThan(1e-6);
  });

  it.each([
    ['stands', { speedMps: 0.4 }],
    ['is an object', { kind: 'object' }],
    ['is not heard for long', { positionAtMs: NOW - 600_001 }],
    ['was heard just now', { positionAtMs: NOW }],
  ] as const)('nowhere else if it %s', (_, more) => expect(aheadOf(station(more), NOW)).toBeUndefined());
});
