import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { fromHex, fromLatin1, toHex } from '../bits/octets.js';
import { carriesPid, decodeControl, encodeControl, type Control } from './control.js';
import { decodeFrame, encodeFrame, isCommand, uiFrame, type Ax25Frame } from './frame.js';
import { describePid } from './pid.js';
import { formatMonitorText, parseMonitorText } from './monitor-text.js';

const hex = (text: string): Uint8Array => fromHex(text) as Uint8Array;

/** Read by an independent network analyser. */
const EXAMPLE_LINE = 'N0CALL-7>APZMPK,WIDE1-1,WIDE2-1:>hi';
const EXAMPLE_HEX = '82a0b49aa096e09c60868298986eae92888a624062ae92888a64406303f03e6869';

// from: AX.25 v2.2 (1998), "Frame structure"
describe('an AX.25 frame', () => {
  it('is the octets of the worked example, both ways', () => {
    const frame = parseMonitorText(EXAMPLE_LINE) as Ax25Frame;
    expect(toHex(encodeFrame(frame))).toBe(EXAMPLE_HEX);
    const decoded = decodeFrame(hex(EXAMPLE_HEX)) as Ax25Frame;
    expect(formatMonitorText(decoded)).toBe(EXAMPLE_LINE);
    expect(isCommand(decoded)).toBe(true);
  });

  // arithmetic: H bit over the reserved bits and SSID 1
  it('marks a used WIDE1-1 by E2', () => {
    const frame = parseMonitorText('N0CALL-7>APZMPK,WIDE1-1*,WIDE2-1:x') as Ax25Frame;
    expect(encodeFrame(frame)[20]).toBe(0xe2);
  });

  it.each([
    ['the address field is cut short', '82a0b4', 3],
    ['a call sign has a character that is not A–Z or 0–9', '20'.repeat(6) + 'e0' + '9c60868298986f03f0', 0],
    ['a call sign is empty', '40'.repeat(6) + 'e0' + '9c60868298986f03f0', 0],
    ['a call sign has a gap in it', '82408282828260' + '9c60868298986f03f0', 2],
    ['the address field ends inside a call sign', '83a0b49aa096e0', 0],
    ['the source address is missing', '82a0b49aa096e1', 7],
    ['the control field is missing', '82a0b49aa096e09c60868298986f', 14],
    ['the protocol identifier is missing', '82a0b49aa096e09c60868298986f03', 15],
    ['control field 23 has no meaning in AX.25', '82a0b49aa096e09c60868298986f23f0', 14],
    ['more than 8 digipeaters', '82a0b49aa096e0'.repeat(11), 70],
  ])('is refused: %s', (reason, octets, at) => {
    expect(decodeFrame(hex(octets))).toEqual({ malformed: reason, at });
  });

  it('takes eight digipeaters, not nine', () => {
    const path = Array.from({ length: 9 }, (_, i) => ({ call: `QH1A-${i + 1}`, used: false }));
    const eight = uiFrame('QH4MPK', 'APZMPK', path.slice(0, 8), new Uint8Array());
    expect(decodeFrame(encodeFrame(eight))).toEqual(eight);
    expect(() => encodeFrame({ ...eight, path })).toThrow(RangeError);
  });

  it('writes SSIDs from 0 to 15, and no other', () => {
    const from = (source: string) => encodeFrame(uiFrame(source, 'APZMPK', [], new Uint8Array()));
    expect(decodeFrame(from('QH4MPK-15'))).toMatchObject({ source: 'QH4MPK-15' });
    for (const wrong of ['QH4MPK-16', 'QH4MPK--1', 'QH4MPK-1.5', 'QH4MPK-x'])
      expect(() => from(wrong)).toThrow(RangeError);
  });
});

// from: AX.25 v2.2, "Control-field formats": one octet each, P/F set
describe('control fields', () => {
  const named: [string, Control, number][] = [
    ['SABM', { kind: 'SABM', pf: true }, 0x3f],
    ['SABME', { kind: 'SABME', pf: true }, 0x7f],
    ['DISC', { kind: 'DISC', pf: true }, 0x53],
    ['DM', { kind: 'DM', pf: false }, 0x0f],
    ['UA', { kind: 'UA', pf: true }, 0x73],
    ['FRMR', { kind: 'FRMR', pf: false }, 0x87],
    ['UI', { kind: 'UI', pf: false }, 0x03],
    ['XID', { kind: 'XID', pf: false }, 0xaf],
    ['TEST', { kind: 'TEST', pf: false }, 0xe3],
    ['RR', { kind: 'RR', pf: false, nr: 3 }, 0x61],
    ['RNR', { kind: 'RNR', pf: true, nr: 0 }, 0x15],
    ['REJ', { kind: 'REJ', pf: false, nr: 7 }, 0xe9],
    ['SREJ', { kind: 'SREJ', pf: false, nr: 1 }, 0x2d],
    ['I', { kind: 'I', pf: false, ns: 2, nr: 5 }, 0xa4],
  ];
  it.each(named)('%s', (_, control, octet) => {
    expect(encodeControl(control)).toEqual([octet]);
    expect(decodeControl(Uint8Array.of(octet), 0)).toEqual({ control, length: 1 });
  });

  it('of every octet are refused or come back the same, modulo 8 and 128', () => {
    for (const modulo of [8, 128] as const) {
      for (let first = 0; first < 256; first++) {
        const octets = Uint8Array.of(first, 0xa5);
        const field = decodeControl(octets, 0, modulo);
        if (isMalformed(field)) continue;
        expect(encodeControl(field.control, modulo)).toEqual([...octets.slice(0, field.length)]);
      }
    }
  });
});

// from: AX.25 v2.2, "PID field"
describe('a protocol identifier in words', () => {
  it.each([
    [0xf0, 'no layer 3'],
    [0x08, 'a segment of something longer'],
    [0xcc, 'internet protocol'],
    [0x10, 'AX.25 layer 3'],
    [0x2f, 'AX.25 layer 3'],
    [0xcf, 'protocol CF'],
    [0x05, 'protocol 05'],
  ])('%i', (pid, words) => expect(describePid(pid)).toBe(words));
});

describe('monitor text', () => {
  it.each([
    ['no colon here', 'there is no ":" between header and info'],
    ['QH4MPK:info', 'there is no ">" between source and destination'],
    ['qh4mpk>APZMPK:x', '"qh4mpk" is not a call sign as AX.25 sends it'],
    ['QH4MPK-16>APZMPK:x', 'an SSID is a number from 0 to 15, as in QH4MPK-7'],
    ['QH4MPK>TOOLONGCALL:x', 'a call sign has 1 to 6 characters before the hyphen'],
    ['A>B,C,D,E,F,G,H,I,J,K:x', 'more than 8 digipeaters'],
    ['A>B:\u2603', 'a character is not one octet'],
  ])('refuses %s', (line, malformed) => expect(parseMonitorText(line)).toMatchObject({ malformed }));

  it('a line that begins with ">" has an empty source, which is what is told', () => {
    expect(parseMonitorText('>APZMPK:x')).toMatchObject({ at: 0 });
    expect(parseMonitorText('>APZMPK:x')).not.toMatchObject({
      malformed: 'there is no ">" between source and destination',
    });
  });

  it('marks the last used hop, which means all before it', () => {
    const line = 'QH7CTC-9>APZMPK,QH1ANR,WIDE1*,WIDE2-1:!x';
    const frame = parseMonitorText(line) as Ax25Frame;
    expect(frame.path.map(({ used }) => used)).toEqual([true, true, false]);
    expect(formatMonitorText(frame)).toBe(line);
  });

  it('names frames that are not UI', () => {
    const frame: Ax25Frame = {
      ...uiFrame('A', 'B', [], fromLatin1('hi')),
      control: { kind: 'I', pf: true, ns: 1, nr: 2 },
    };
    expect(formatMonitorText(frame)).toBe('A>B <I S1 R2 P/F>:hi');
  });
});

const call = fc
  .tuple(fc.stringMatching(/^[A-Z0-9]{1,6}$/), fc.nat(15))
  .map(([base, ssid]) => (ssid === 0 ? base : `${base}-${ssid}`));
const hop = fc.record({ call, used: fc.boolean() });
const control: fc.Arbitrary<Control> = fc.oneof(
  fc.record({ kind: fc.constant('I' as const), pf: fc.boolean(), ns: fc.nat(7), nr: fc.nat(7) }),
  fc.record({
    kind: fc.constantFrom('RR' as const, 'RNR' as const, 'REJ' as const, 'SREJ' as const),
    pf: fc.boolean(),
    nr: fc.nat(7),
  }),
  fc.record({
    kind: fc.constantFrom('UI' as const, 'SABM' as const, 'DM' as const, 'XID' as const),
    pf: fc.boolean(),
  }),
);
const anyFrame: fc.Arbitrary<Ax25Frame> = fc
  .record({
    destination: call,
    source: call,
    path: fc.array(hop, { maxLength: 8 }),
    cBits: fc.record({ destination: fc.boolean(), source: fc.boolean() }),
    control,
    info: fc.uint8Array({ maxLength: 256 }),
  })
  .map((frame) => (carriesPid(frame.control.kind) ? { ...frame, pid: 0xf0 } : frame));

describe('any frame', () => {
  it('comes back as it was encoded', () => {
    fc.assert(fc.property(anyFrame, (frame) => expect(decodeFrame(encodeFrame(frame))).toEqual(frame)));
  });

  it('that can be read is encoded to the same octets', () => {
    const mutated = fc.tuple(anyFrame, fc.nat(), fc.nat(255)).map(([frame, at, octet]) => {
      const octets = encodeFrame(frame);
      octets[at % octets.length] = octet;
      return octets;
    });
    fc.assert(
      fc.property(fc.oneof(mutated, fc.uint8Array({ maxLength: 80 })), (octets) => {
        const frame = decodeFrame(octets);
        if (!isMalformed(frame)) expect(toHex(encodeFrame(frame))).toBe(toHex(octets));
      }),
      { numRuns: 500 },
    );
  });
});
