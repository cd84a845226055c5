import fc from 'fast-check';
import { placeAt, placesAlong, wayTo } from './position.js';

/** What the library itself says, by bearing and distance (Karney 2013). */
function furthestM(from: [number, number], bearingDeg: number, distancesKm: readonly number[]): number {
  const start = { latitudeDeg: from[0], longitudeDeg: from[1] };
  const end = placeAt(start, Math.max(...distancesKm), bearingDeg);
  const off = placesAlong(start, end, distancesKm).map(
    (place, i) => 1000 * wayTo(place, placeAt(start, distancesKm[i] as number, bearingDeg)).distanceKm,
  );
  return Math.max(...off);
}

describe('places along a geodesic', () => {
  it('are within half a metre of it, in whatever order they are asked for', () => {
    const distance = fc.double({ min: 0, max: 120, noNaN: true });
    fc.assert(
      fc.property(
        fc.double({ min: -88, max: 88, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        fc.double({ min: 0, max: 360, noNaN: true }),
        fc.array(distance, { minLength: 1, maxLength: 20 }),
        (latitudeDeg, longitudeDeg, bearingDeg, distancesKm) => {
          expect(furthestM([latitudeDeg, longitudeDeg], bearingDeg, [...distancesKm, 121])).toBeLessThan(0.5);
        },
      ),
    );
  });

  it.each([
    ['over the date line', [-17, 179.99], 90],
    ['by the pole', [89.9, 10], 0],
    ['where the straight line ends', [79.99, 20], 80],
    ['southward there', [-79.99, 20], 100],
  ] as const)('%s', (_, from, bearingDeg) => {
    expect(furthestM([...from], bearingDeg, [0, 0.7, 1.1, 2, 3.3, 19.9])).toBeLessThan(0.5);
  });
});
