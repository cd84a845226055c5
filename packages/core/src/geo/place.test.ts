import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { formatPosition } from './coordinates.js';
import { formatPlace, parsePlace } from './place.js';
import type { Position } from './position.js';

const PLACE = { latitudeDeg: -29.632, longitudeDeg: -11.405 };

describe('a place as typed', () => {
  it.each([
    '29.6320 S 11.4050 W',
    '29.632S11.405W',
    '29.632° S, 11.405° W',
    '29,632 S; 11,405 W',
    'S 29.632 W 11.405',
    'S29.632°, W11.405°',
    '11.405 W 29.632 S',
    '-29.632, -11.405',
    '−29.632,−11.405',
    '-29,632 -11,405',
    '-29,632; -11,405',
    '29 37.92 S 11 24.30 W',
    '29°37.92′S 011°24.30′W',
    "29°37.92'S 11°24.3'W",
    '29°37′55.2″S 11°24′18″W',
    '29 37 55.2 S 11 24 18 W',
    '-29 37.92 -11 24.30',
    ' 29.632 s 11.405 w ',
  ])('%s', (text) => {
    const place = parsePlace(text) as Position;
    expect(place.latitudeDeg).toBeCloseTo(PLACE.latitudeDeg, 9);
    expect(place.longitudeDeg).toBeCloseTo(PLACE.longitudeDeg, 9);
  });

  it.each(['IG40', 'ig40hi', 'IG40hi07'])('%s is the middle of a square', (text) => {
    const place = parsePlace(text) as Position;
    expect(Math.abs(place.latitudeDeg - PLACE.latitudeDeg)).toBeLessThan(0.5);
    expect(Math.abs(place.longitudeDeg - PLACE.longitudeDeg)).toBeLessThan(1);
  });

  it.each([
    ['', 'write the place'],
    ['29.632 S', 'write the place'],
    ['29.632', 'write the place'],
    ['1 2 3', 'write the place'],
    ['IG', 'write the place'],
    ['95 N 10 E', 'at most 90'],
    ['10 N 200 E', 'at most 180'],
    ['10 N 20 N', 'E or W'],
    ['10 E 20 E', 'write|N or S'],
    ['29 61 S 11 2 W', 'below 60'],
    ['29 1 60 S 11 2 1 W', 'below 60'],
    ['somewhere', 'write the place'],
    ['north', 'write the place'],
  ])('refuses “%s” in words', (text, words) => {
    expect(parsePlace(text)).toMatchObject({ malformed: expect.stringMatching(words) as string });
  });

  const places = fc.record({
    latitudeDeg: fc.double({ min: -90, max: 90, noNaN: true }),
    longitudeDeg: fc.double({ min: -180, max: 180, noNaN: true }),
  });

  it('comes back from every form in which it is shown', () => {
    fc.assert(
      fc.property(places, fc.constantFrom('decimal' as const, 'minutes' as const), (place, form) => {
        const back = parsePlace(formatPosition(place, form)) as Position;
        expect(Math.abs(back.latitudeDeg - place.latitudeDeg)).toBeLessThan(0.0001);
        expect(Math.abs(back.longitudeDeg - place.longitudeDeg)).toBeLessThan(0.0001);
      }),
    );
  });

  it('comes back from how it is typed', () => {
    fc.assert(
      fc.property(places, (place) => {
        const back = parsePlace(formatPlace(place)) as Position;
        expect(Math.abs(back.latitudeDeg - place.latitudeDeg)).toBeLessThan(6e-7);
        expect(Math.abs(back.longitudeDeg - place.longitudeDeg)).toBeLessThan(6e-7);
      }),
    );
    expect(formatPlace(PLACE)).toBe('29.632 S 11.405 W');
    expect(formatPlace({ latitudeDeg: 0, longitudeDeg: 1e-9 })).toBe('0 N 0 E');
  });

  it('never fails on any text', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(...'0123456789.,;NSEWabxIG°′″-− ') }), (text) => {
        const read = parsePlace(text);
        if (isMalformed(read)) expect(read.malformed).toMatch(/\w{3}/);
        else {
          expect(Math.abs(read.latitudeDeg)).toBeLessThanOrEqual(90);
          expect(Math.abs(read.longitudeDeg)).toBeLessThanOrEqual(180);
        }
      }),
      { numRuns: 2000 },
    );
  });
});
