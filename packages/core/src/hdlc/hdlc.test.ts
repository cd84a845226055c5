import { fromHex, fromLatin1 } from '../bits/octets.js';
import { airTimeMs, bitsOnAir } from './air-time.js';
import { fcs, fcsRemainder, withFcs } from './fcs.js';

/** `N0CALL-7>APZMPK,WIDE1-1,WIDE2-1:>hi`, read by an independent dissector. */
const EXAMPLE = fromHex(
  '82A0B49AA096E09C608682 9898 6EAE92888A6240 62AE92888A6440 6303F03E6869',
) as Uint8Array;

describe('FCS', () => {
  // from: the catalogue of CRC algorithms, CRC-16/IBM-SDLC: check value 0x906E
  it('of "123456789" is 906E', () => expect(fcs(fromLatin1('123456789'))).toBe(0x906e));

  // from: ISO/IEC 13239: the register over a good frame, before the final complement
  it('leaves F0B8 over a frame that carries it', () => expect(fcsRemainder(withFcs(EXAMPLE))).toBe(0xf0b8));

  it('is CE 32 for the example frame, low octet first', () => {
    expect([...withFcs(EXAMPLE).slice(-2)]).toEqual([0xce, 0x32]);
  });
});

describe('air time', () => {
  // arithmetic: 297 bits after stuffing with one flag each side, 247.5 ms at 1200 Bd
  it('of the example frame is 247.5 ms', () => {
    expect(bitsOnAir(EXAMPLE)).toBe(297);
    expect(airTimeMs(EXAMPLE, 1200)).toBeCloseTo(247.5, 10);
  });

  it('adds TXDELAY and tail', () => {
    expect(airTimeMs(EXAMPLE, 1200, { txDelayMs: 300, txTailMs: 30 })).toBeCloseTo(577.5, 10);
  });

  // arithmetic: 16 ones need three stuffed zeros
  it('stuffs a zero after five ones', () => {
    const plain = bitsOnAir(new Uint8Array([0, 0]));
    expect(bitsOnAir(new Uint8Array([0xff, 0xff])) - plain).toBeGreaterThanOrEqual(3);
  });

  it('refuses a rate of nothing', () => expect(() => airTimeMs(EXAMPLE, 0)).toThrow(RangeError));
});
