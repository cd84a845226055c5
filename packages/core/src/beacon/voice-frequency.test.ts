import { isMalformed } from '../bits/malformed.js';
import { placeAt } from '../geo/position.js';
import {
  formatVoiceFrequency,
  frequencyStale,
  parseVoiceFrequency,
  STALE_AFTER_MS,
} from './voice-frequency.js';

const HERE = { latitudeDeg: -29.6, longitudeDeg: -11.4 };

describe('a voice frequency', () => {
  it.each([
    ['145.500MHz', { frequencyMHz: 145.5 }],
    [' 145.675MHz T094 -060 ', { frequencyMHz: 145.675, toneHz: 94.8, offsetKHz: -600 }],
  ])('%s is read, and written again', (text, frequency) => {
    expect(parseVoiceFrequency(text)).toEqual(frequency);
    expect(formatVoiceFrequency(frequency)).toBe(text.trim());
  });

  it('is none where nothing is typed', () => expect(parseVoiceFrequency('  ')).toBeUndefined());

  it.each(['145', 'MHz', '145.500MHz hello'])('%s is refused', (text) =>
    expect(isMalformed(parseVoiceFrequency(text))).toBe(true),
  );

  it.each([
    [STALE_AFTER_MS - 1, 0, true, undefined],
    [STALE_AFTER_MS, 0, true, 'an hour old'],
    [STALE_AFTER_MS, 0, false, undefined],
    [0, 29.9, true, undefined],
    [0, 30.1, false, 'moved 30 km'],
  ])('after %i ms and %d km (moving: %s) is %s', (ms, km, isMoving, stale) =>
    expect(frequencyStale({ atMs: 0, position: HERE }, ms, placeAt(HERE, km, 10), isMoving)).toBe(stale),
  );

  it('given nowhere goes stale by its hour alone', () => {
    expect(frequencyStale({ atMs: 0 }, 0, HERE, true)).toBeUndefined();
    expect(frequencyStale({ atMs: 0, position: HERE }, 0, undefined, true)).toBeUndefined();
  });
});
