import fc from 'fast-check';
import { concatOctets, fromHex, toHex } from '../bits/octets.js';
import { encodeKiss, KissDecoder } from './codec.js';
import { KISS_COMMANDS, type KissDiscard, type KissFrame } from './commands.js';
import { kissParameterFrames, persistenceOctet, persistenceOf, USUAL_KISS_PARAMETERS } from './parameters.js';

const hex = (text: string): Uint8Array => fromHex(text) as Uint8Array;

/** All that comes out of a stream given in these pieces. */
function decodePieces(pieces: readonly Uint8Array[]): (KissFrame | KissDiscard)[] {
  const decoder = new KissDecoder();
  return [...pieces.flatMap((piece) => decoder.push(piece)), ...decoder.end()];
}

const decodeAll = (octets: Uint8Array): (KissFrame | KissDiscard)[] => decodePieces([octets]);
const data = (payload: Uint8Array, port = 0): KissFrame => ({ port, command: 'data', payload });

// from: Chepponis & Karn, "The KISS TNC", 1987
describe('KISS on the wire', () => {
  it.each<[string, KissFrame, string]>([
    // the paper's example: the characters TEST on port 0, then on port 5
    ['TEST on port 0', data(hex('54455354')), 'c00054455354c0'],
    ['Hello on port 5', data(hex('48656c6c6f'), 5), 'c05048656c6c6fc0'],
    // the paper's example: C0 DB out of port 0
    ['FEND and FESC escaped', data(hex('c0db')), 'c000dbdcdbddc0'],
    // arithmetic: the type octet of port 12, data, is C0 itself and must be escaped
    ['port 12, data', data(hex('c0db'), 12), 'c0dbdcdbdcdbddc0'],
    ['return', { command: 'return' }, 'c0ffc0'],
    ['TXDELAY 300 ms', { port: 0, command: 'txdelay', value: 30 }, 'c0011ec0'],
  ])('%s', (_, frame, wire) => {
    expect(toHex(encodeKiss(frame))).toBe(wire);
    expect(decodeAll(hex(wire))).toEqual([frame]);
  });

  it('takes back-to-back FENDs for no frame', () => {
    expect(decodeAll(hex('c0c0c0c000aac0c0'))).toEqual([data(hex('aa'))]);
  });

  it.each([
    ['bad escape', 'c00041db4142c0', 5],
    ['bad escape', 'c00041dbc0', 3],
    ['unknown command', 'c007aac0', 2],
    ['unknown command', 'c0efaac0', 2],
    ['empty frame', 'c000c0', 1],
    ['bad parameter', 'c00101 02c0', 3],
    ['bad parameter', 'c0ff00c0', 2],
    ['outside a frame', '48690d', 3],
    ['cut off', 'c00041', 2],
  ])('counts %s: %s', (discarded, wire, octets) => {
    expect(decodeAll(hex(wire))).toMatchObject([{ discarded, octets }]);
  });

  it.each(['0d', '0a'])('takes %s for the end of a line of text, and tells it at once', (end) => {
    const decoder = new KissDecoder();
    expect(decoder.push(hex('4869'))).toEqual([]);
    expect(decoder.push(hex(end))).toMatchObject([{ discarded: 'outside a frame', octets: 3 }]);
    expect(decoder.push(hex('480e'))).toEqual([]);
  });

  it('goes on after what it discarded', () => {
    const wire = concatOctets(
      hex('61620d'),
      hex('c000db00c0'),
      hex('c000aac0'),
      new Uint8Array(5000).fill(65),
      hex('c000bbc0'),
    );
    const kinds = decodeAll(wire).map((item) => ('discarded' in item ? item.discarded : item.command));
    expect(kinds).toEqual(['outside a frame', 'bad escape', 'data', 'too long', 'data']);
  });

  it.each([
    [4096, 'data'],
    [4097, 'too long'],
  ])('%i octets of payload: %s', (length, expected) => {
    const [item] = decodeAll(encodeKiss(data(new Uint8Array(length).fill(7))));
    expect(item && ('discarded' in item ? item.discarded : item.command)).toBe(expected);
  });

  it('reports an endless stream without FEND, in bounded memory', () => {
    const decoder = new KissDecoder();
    const items = Array.from({ length: 100 }, () => decoder.push(new Uint8Array(10_000).fill(65))).flat();
    expect(items.length).toBeGreaterThan(1000);
    decoder.push(hex('c0'));
    const inFrame = Array.from({ length: 20 }, () => decoder.push(new Uint8Array(10_000).fill(65))).flat();
    expect(inFrame).toMatchObject([
      { discarded: 'too long' },
      { discarded: 'too long' },
      { discarded: 'too long' },
    ]);
  });

  it('keeps each frame whole where many are kept in one piece of memory, whatever their lengths', () => {
    for (const last of [1047, 1048, 1049, 2047, 2048, 2049]) {
      const sent = [1000, last, 3, 2048, 1].map((length, i) => new Uint8Array(length).fill(i + 1));
      const wire = concatOctets(...sent.map((payload) => encodeKiss({ port: 0, command: 'data', payload })));
      expect(decodeAll(wire)).toEqual(sent.map((payload) => data(payload)));
    }
  });

  it('refuses what no frame can carry', () => {
    expect(() => encodeKiss(data(hex('00'), 16))).toThrow(RangeError);
    expect(() => encodeKiss({ port: 0, command: 'txdelay', value: 256 })).toThrow(RangeError);
  });
});

describe('KISS parameters', () => {
  it('are sent in tens of milliseconds and as p·256 − 1', () => {
    const wire = kissParameterFrames(0, USUAL_KISS_PARAMETERS).map((frame) => toHex(encodeKiss(frame)));
    expect(wire).toEqual(['c0011ec0', 'c0023fc0', 'c0030ac0', 'c00403c0', 'c00500c0']);
  });

  // from: the KISS paper, "Control of the KISS TNC": P = 63 is p = 0.25
  it.each([
    [0.25, 63],
    [1, 255],
    [0, 0],
  ])('p = %d is octet %i', (p, octet) => expect(persistenceOctet(p)).toBe(octet));

  it('every octet comes back from the chance that it stands for', () => {
    for (let octet = 0; octet < 256; octet++) expect(persistenceOctet(persistenceOf(octet))).toBe(octet);
    expect([persistenceOf(63), persistenceOf(255)]).toEqual([0.25, 1]);
  });
});

const anyFrame: fc.Arbitrary<KissFrame> = fc.oneof(
  fc.record({
    port: fc.nat(15),
    command: fc.constantFrom('data' as const, 'sethardware' as const),
    payload: fc.uint8Array({ minLength: 1, maxLength: 400 }),
  }),
  fc.record({
    port: fc.nat(15),
    command: fc.constantFrom(
      ...KISS_COMMANDS.filter(({ carries }) => carries === 'value').map(({ name }) => name as 'txdelay'),
    ),
    value: fc.nat(255),
  }),
);

describe('any KISS stream', () => {
  it('comes back as it was sent, cut anywhere', () => {
    fc.assert(
      fc.property(
        fc.array(anyFrame, { maxLength: 6 }),
        fc.infiniteStream(fc.integer({ min: 1, max: 30 })),
        (frames, cuts) => {
          const wire = concatOctets(...frames.map(encodeKiss));
          const pieces: Uint8Array[] = [];
          for (let at = 0; at < wire.length;) {
            const length = cuts.next().value;
            pieces.push(wire.slice(at, at + length));
            at += length;
          }
          expect(decodePieces(pieces)).toEqual(frames);
        },
      ),
    );
  });

  it('gives the same whether junk comes whole or octet by octet, and loses none of it', () => {
    const octet = fc.oneof(fc.nat(255), fc.constantFrom(0xc0, 0xdb, 0xdc, 0xdd, 0x0d));
    fc.assert(
      fc.property(fc.array(octet, { maxLength: 3000 }), (octets) => {
        const wire = Uint8Array.from(octets);
        const whole = decodePieces([wire]);
        expect(decodePieces([...wire].map((one) => Uint8Array.of(one)))).toEqual(whole);
      }),
    );
  });
});
