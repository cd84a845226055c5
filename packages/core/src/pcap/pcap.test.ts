import fc from 'fast-check';
import { fromHex, toHex } from '../bits/octets.js';
import { decodePcap, encodePcap } from './pcap.js';

const hex = (text: string): Uint8Array => fromHex(text) as Uint8Array;

// from: the libpcap file format; 202 is LINKTYPE_AX25_KISS
describe('a capture file', () => {
  it('is these octets', () => {
    const file = encodePcap([{ atMs: 1_500.25, packet: hex('00aa') }]);
    expect(toHex(file)).toBe(
      'd4c3b2a1' +
        '0200' +
        '0400' +
        '00000000' +
        '00000000' +
        'ffff0000' +
        'ca000000' + // header
        '01000000' +
        '1aa20700' +
        '02000000' +
        '02000000' +
        '00aa', // 1 s and 500 250 µs
    );
  });

  it('is read in the other byte order, with nanoseconds', () => {
    const file = hex(
      'a1b23c4d' +
        '00020004' +
        '00000000' +
        '00000000' +
        '0000ffff' +
        '000000ca' +
        '00000001' +
        '1dcd6500' +
        '00000001' +
        '00000001' +
        '00',
    );
    expect(decodePcap(file)).toEqual([{ atMs: 1500, packet: hex('00') }]);
  });

  it.each([
    ['not a capture file of the classic form (pcap)', '0a0d0d0a' + '00'.repeat(30)],
    [
      'link type 1: only 202 (AX.25 with KISS octet) is read',
      'd4c3b2a102000400' + '00'.repeat(8) + 'ffff000001000000',
    ],
    ['shorter than a capture file header', 'd4c3b2a1'],
  ])('is refused: %s', (malformed, file) => expect(decodePcap(hex(file))).toMatchObject({ malformed }));

  it('cut off anywhere gives its whole records and then the reason', () => {
    const packets = [hex('00aabb'), hex('00ccdd')].map((packet) => ({ atMs: 0, packet }));
    const file = encodePcap(packets);
    for (let length = 25; length < file.length; length++) {
      const read = decodePcap(file.slice(0, length));
      if (length !== 24 + 19) expect((read as unknown[]).at(-1)).toHaveProperty('malformed');
    }
  });

  it('comes back', () => {
    const packet = fc.record({ atMs: fc.nat(2 ** 31), packet: fc.uint8Array({ maxLength: 300 }) });
    fc.assert(
      fc.property(fc.array(packet, { maxLength: 8 }), (packets) =>
        expect(decodePcap(encodePcap(packets))).toEqual(packets),
      ),
    );
  });
});
