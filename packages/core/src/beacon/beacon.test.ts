import { encodeFrame, type Ax25Frame } from '../ax25/frame.js';
import { formatMonitorText } from '../ax25/monitor-text.js';
import { toHex } from '../bits/octets.js';
import { beaconFrame, parseComment, type FixedBeacon } from './beacon.js';

const BEACON: FixedBeacon = {
  source: 'qh4mpk-7',
  position: { latitudeDeg: -29.632, longitudeDeg: -11.405 },
  symbol: { table: '/', code: '-' },
  comment: 'base hut',
  path: 'WIDE1-1,WIDE2-1',
  compressed: false,
};

describe('a fixed beacon', () => {
  it('is this frame, as text and in octets', () => {
    const frame = beaconFrame(BEACON) as Ax25Frame;
    expect(formatMonitorText(frame)).toBe('QH4MPK-7>APZMPK,WIDE1-1,WIDE2-1:!2937.92S/01124.30W-base hut');
    // arithmetic, octet by octet: to APZMPK (command), from QH4MPK-7, two digipeaters, UI, F0
    expect(toHex(encodeFrame(frame)).slice(0, 60)).toBe(
      '82a0b49aa096e0a290689aa0966eae92888a624062ae92888a64406303f0',
    );
  });

  it.each([
    [{ source: 'QH4MPK-77' }, /SSID/],
    [{ path: 'RELAY' }, /obsolete/],
    [{ comment: 'x'.repeat(44) }, /at most 43/],
    [{ comment: 'x'.repeat(41), compressed: true }, /at most 40/],
    [{ comment: 'größer' }, /cannot be sent/],
    [{ comment: 'a|b' }, /cannot be sent/],
  ])('is refused: %j', (wrong, words) => {
    expect(beaconFrame({ ...BEACON, ...wrong })).toMatchObject({ malformed: expect.stringMatching(words) });
  });

  it('has room for 43 characters', () => expect(parseComment('x'.repeat(43))).toHaveLength(43));
});
