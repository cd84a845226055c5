import fc from 'fast-check';
import { parseMonitorText } from '../ax25/monitor-text.js';
import { parseComment } from '../beacon/beacon.js';
import { parseCallSign, parseLicenceCall } from '../callsign/callsign.js';
import { parsePath } from '../digipeating/alias.js';
import { parseCoordinate } from '../geo/coordinates.js';
import { parseLocator } from '../geo/locator.js';
import { decodePcap, encodePcap } from '../pcap/pcap.js';
import { viewFrame } from '../stations/view.js';
import { isMalformed } from './malformed.js';
import { fromHex } from './octets.js';

/** Every reader of text that an operator types or a file holds: a value or a reason, never a throw. */
const TEXT_READERS: Record<string, (text: string) => unknown> = {
  fromHex,
  parseMonitorText,
  parseComment,
  parseCallSign,
  parseLicenceCall,
  parsePath,
  parseLocator,
  latitude: (text) => parseCoordinate(text, 'latitude'),
  longitude: (text) => parseCoordinate(text, 'longitude'),
};

const nearText = fc.oneof(
  fc.string({ unit: 'binary', maxLength: 60 }),
  fc.string({ unit: fc.constantFrom(...'AQ0179-*,>:.° NSEWide+ \0\xff☃'), maxLength: 40 }),
);

describe('junk is safe', () => {
  it.each(Object.entries(TEXT_READERS))('%s', (_, read) => {
    fc.assert(
      fc.property(nearText, (text) => {
        const result = read(text);
        if (isMalformed(result))
          expect(result).toEqual({
            malformed: expect.stringMatching(/\S/) as string,
            at: expect.any(Number) as number,
          });
      }),
      { numRuns: 1000 },
    );
  });

  it('a capture file with any octets changed', () => {
    const file = encodePcap(
      Array.from({ length: 4 }, (_, i) => ({ atMs: i, packet: new Uint8Array(20).fill(i) })),
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(file.length - 1), fc.nat(255)), { maxLength: 6 }), (changes) => {
        const damaged = file.slice();
        for (const [at, octet] of changes) damaged[at] = octet;
        expect(() => decodePcap(damaged)).not.toThrow();
      }),
      { numRuns: 1000 },
    );
  });

  it('any octets as a frame', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (octets) =>
        expect(() => viewFrame(octets)).not.toThrow(),
      ),
    );
  });
});
