import { encodeFrame, type Ax25Frame } from '../ax25/frame.js';
import { formatMonitorText } from '../ax25/monitor-text.js';
import { toHex } from '../bits/octets.js';
import { parseComment } from './beacon.js';
import { composeBeacon, type ComposedBeacon } from './composer.js';

const BEACON: ComposedBeacon = {
  source: 'qh4mpk-7',
  position: { latitudeDeg: -29.632, longitudeDeg: -11.405 },
  symbol: { table: '/', code: '-' },
  comment: 'base hut',
  path: 'WIDE1-1,WIDE2-1',
};

describe('a fixed beacon', () => {
  it('is this frame, as text and in octets', () => {
    const frame = composeBeacon(BEACON, 'plain') as Ax25Frame;
    expect(formatMonitorText(frame)).toBe('QH4MPK-7>APZMPK,WIDE1-1,WIDE2-1:!2937.92S/01124.30W-base hut');
    // arithmetic, octet by octet: to APZMPK (command), from QH4MPK-7, two digipeaters, UI, F0
    expect(toHex(encodeFrame(frame)).slice(0, 60)).toBe(
      '82a0b49aa096e0a290689aa0966eae92888a624062ae92888a64406303f0',
    );
  });

  it.each([
    [{ source: 'QH4MPK-77' }, /SSID/],
    [{ path: 'RELAY' }, /obsolete/],
    [{ comment: 'größer' }, /cannot be sent/],
    [{ comment: 'a|b' }, /cannot be sent/],
  ])('is refused: %j', (wrong, words) => {
    expect(composeBeacon({ ...BEACON, ...wrong }, 'smallest')).toMatchObject({
      malformed: expect.stringMatching(words),
    });
  });
});

describe('a comment', () => {
  it('has room for 43 characters', () => {
    expect(parseComment('x'.repeat(43))).toHaveLength(43);
    expect(parseComment('x'.repeat(44))).toMatchObject({ malformed: expect.stringMatching(/at most 43/) });
  });

  it.each(['~', '|', '\u007f', 'é', '\n'])('does not hold %j', (text) =>
    expect(parseComment(text)).toMatchObject({ malformed: expect.stringMatching(/cannot be sent/) }),
  );
});
