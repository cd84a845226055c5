import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { formatCoordinate, formatPosition, parseCoordinate } from './coordinates.js';
import { formatLocator, neighbouringSquares, parseLocator } from './locator.js';
import { placeAt, wayTo, windName, type Position } from './position.js';

const anyPlace: fc.Arbitrary<Position> = fc.record({
  latitudeDeg: fc.double({ min: -89, max: 89, noNaN: true }),
  longitudeDeg: fc.double({ min: -180, max: 179.9, noNaN: true }),
});

describe('the way to a place', () => {
  // from: WGS-84 (NIMA TR8350.2): a degree of meridian at the equator is 110.574 km, of the equator 111.319 km
  it.each([
    [{ latitudeDeg: 1, longitudeDeg: 0 }, 110.574, 0],
    [{ latitudeDeg: 0, longitudeDeg: 1 }, 111.319, 90],
    [{ latitudeDeg: 0, longitudeDeg: -1 }, 111.319, 270],
  ])('%j', (to, distanceKm, bearingDeg) => {
    const way = wayTo({ latitudeDeg: 0, longitudeDeg: 0 }, to);
    expect(way.distanceKm).toBeCloseTo(distanceKm, 3);
    expect(way.bearingDeg).toBeCloseTo(bearingDeg, 6);
  });

  it('leads there and is measured back', () => {
    fc.assert(
      fc.property(
        anyPlace,
        fc.double({ min: 0.01, max: 500, noNaN: true }),
        fc.double({ min: 0, max: 359, noNaN: true }),
        (from, km, bearing) => {
          expect(wayTo(from, placeAt(from, km, bearing)).distanceKm).toBeCloseTo(km, 5);
        },
      ),
    );
  });

  it.each([
    [0, 'N'],
    [44, 'NE'],
    [350, 'N'],
    [-90, 'W'],
  ])('%i° is %s', (bearing, wind) => expect(windName(bearing)).toBe(wind));
});

describe('locators', () => {
  // from: a widely published check value of the Maidenhead system (IARU Region 1 VHF handbook for the system)
  it('of 41.714775 N 72.727260 W is FN31pr', () => {
    expect(formatLocator({ latitudeDeg: 41.714775, longitudeDeg: -72.72726 })).toBe('FN31pr');
  });

  it('are not of any length, nor of any place', () => {
    const hut = { latitudeDeg: -29.6, longitudeDeg: -11.4 };
    for (const length of [0, 3, 5, 12])
      expect(formatLocator(hut, length)).toMatchObject({
        malformed: 'a locator has 2, 4, 6, 8 or 10 characters',
      });
    expect(formatLocator({ ...hut, latitudeDeg: 90.1 })).toMatchObject({ malformed: 'not a place on earth' });
    expect(formatLocator({ ...hut, longitudeDeg: -180.1 })).toMatchObject({
      malformed: 'not a place on earth',
    });
    expect(formatLocator({ latitudeDeg: 90, longitudeDeg: 180 })).toBe('RR99xx');
    expect(formatLocator({ latitudeDeg: -90, longitudeDeg: -180 })).toBe('AA00aa');
  });

  it.each([
    ['1R99', 0],
    ['RS99', 1],
    ['RR9x', 3],
    ['IG40hy', 5],
    ['IG40yh', 4],
  ])('%s has something else at place %i', (text, at) =>
    expect(parseLocator(text)).toEqual({ malformed: 'no such letter or digit in a locator', at }),
  );

  it('of the demo island is IG40', () => {
    expect(formatLocator({ latitudeDeg: -29.6, longitudeDeg: -11.4 }, 4)).toBe('IG40');
  });

  it('lead back to a square that holds the place', () => {
    fc.assert(
      fc.property(anyPlace, fc.constantFrom(2, 4, 6, 8, 10), (place, length) => {
        const locator = formatLocator(place, length) as string;
        const centre = parseLocator(locator) as Position;
        expect(formatLocator(centre, length)).toBe(locator);
        const heightDeg = [10, 1, 1 / 24, 1 / 240, 1 / 5760][length / 2 - 1] as number;
        expect(Math.abs(centre.latitudeDeg - place.latitudeDeg)).toBeLessThanOrEqual(heightDeg / 2 + 1e-6);
      }),
    );
  });

  it.each(['', 'IG4', 'ZZ00', 'IG40zz', 'IG!0'])('refuses "%s"', (text) =>
    expect(isMalformed(parseLocator(text))).toBe(true),
  );
  it('keeps the poles inside', () =>
    expect(formatLocator({ latitudeDeg: 90, longitudeDeg: 180 })).toBe('RR99xx'));
});

describe('coordinates as typed', () => {
  it.each([
    ['29.6320 S', 'latitude', -29.632],
    ['-29.632', 'latitude', -29.632],
    ['−29,632', 'latitude', -29.632],
    ['29 37.92 S', 'latitude', -29.632],
    ['29°37.92′s', 'latitude', -29.632],
    ['11 24.3 W', 'longitude', -11.405],
    ['0', 'longitude', 0],
  ] as const)('%s', (text, axis, degrees) => expect(parseCoordinate(text, axis)).toBeCloseTo(degrees, 9));

  it.each([
    ['', 'latitude'],
    ['north', 'latitude'],
    ['91', 'latitude'],
    ['29.6 W', 'latitude'],
    ['-29.6 S', 'latitude'],
    ['29 60.1 S', 'latitude'],
    ['180.1', 'longitude'],
  ] as const)('refuses "%s" in words', (text, axis) =>
    expect(parseCoordinate(text, axis)).toMatchObject({ malformed: expect.stringMatching(/\w{3}/) }),
  );

  it('are written in the form chosen', () => {
    const place = { latitudeDeg: -29.632, longitudeDeg: -11.405 };
    expect(formatPosition(place, 'decimal')).toBe('29.6320°S 11.4050°W');
    expect(formatPosition(place, 'minutes')).toBe('29°37.92′S 011°24.30′W');
    expect(formatPosition(place, 'locator')).toBe('IG40hi');
    expect(formatCoordinate(9.99999, 'latitude', 'minutes')).toBe('10°00.00′N');
  });
});

// from: APRS Protocol Reference 1.0.1, "Position ambiguity": digits left out, from the last on
describe('an ambiguous position', () => {
  const middle = { latitudeDeg: -(29 + 37.5 / 60), longitudeDeg: -(11 + 24.5 / 60) };
  it.each([
    [0, 'minutes', '29°37.50′S 011°24.50′W'],
    [1, 'minutes', '29°37.5_′S 011°24.5_′W'],
    [2, 'minutes', '29°37.__′S 011°24.__′W'],
    [3, 'minutes', '29°3_.__′S 011°2_.__′W'],
    [4, 'minutes', '29°__.__′S 011°__.__′W'],
    [0, 'decimal', '29.6250°S 11.4083°W'],
    [2, 'decimal', '29.63°S 11.41°W'],
    [4, 'decimal', '30°S 11°W'],
    [0, 'locator', 'IG40hj'],
    [2, 'locator', 'IG40hj'],
    [3, 'locator', 'IG40'],
  ] as const)('of %i digits in %s: %s', (digits, form, text) =>
    expect(formatPosition(middle, form, digits)).toBe(text),
  );
});

describe('the squares round a locator', () => {
  it('north-west first, of the same length, over the borders of fields', () => {
    expect(neighbouringSquares('IG40')).toEqual([
      'IG31',
      'IG41',
      'IG51',
      'IG30',
      'IG40',
      'IG50',
      'IF39',
      'IF49',
      'IF59',
    ]);
    expect(neighbouringSquares('IG40hj')).toContain('IG40gk');
  });

  it('round the antimeridian, and none beyond a pole', () => {
    expect(neighbouringSquares('AI00')).toContain('RI90');
    expect(neighbouringSquares('RR99')).toHaveLength(6);
  });

  it('what is no locator has none', () => expect(isMalformed(neighbouringSquares('IG4'))).toBe(true));
});
