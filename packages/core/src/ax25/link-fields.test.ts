import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { fromHex, toHex } from '../bits/octets.js';
import { decodeFrameReject, encodeFrameReject, type FrameReject } from './frame-reject.js';
import { NO_SEGMENTS, reassemble, segment, type Reassembly } from './segmentation.js';
import { agreed, decodeXid, encodeXid, USUAL_ABILITIES, type LinkAbilities } from './xid.js';

const anyAbilities: fc.Arbitrary<LinkAbilities> = fc.record({
  halfDuplex: fc.boolean(),
  recovery: fc.constantFrom('reject' as const, 'selective reject' as const, 'both' as const),
  modulo: fc.constantFrom(8 as const, 128 as const),
  receiveOctets: fc.nat(8191),
  receiveWindow: fc.nat(127),
  acknowledgeTimerMs: fc.nat(65_535),
  retries: fc.nat(255),
  segments: fc.boolean(),
});

describe('XID', () => {
  // from: AX.25 v2.2, the worked example of "Exchange Identification (XID) frame" (from memory): half duplex, REJ and SREJ,
  // modulo 128, 128 octets, window 2, 4096 ms, 3 retries
  const EXAMPLE = '82800017' + '02022100' + '030386a802' + '06020400' + '080102' + '09021000' + '0a0103';
  const SAYS: LinkAbilities = {
    halfDuplex: true,
    recovery: 'both',
    modulo: 128,
    receiveOctets: 128,
    receiveWindow: 2,
    acknowledgeTimerMs: 4096,
    retries: 3,
    segments: false,
  };

  it('is the octets of the published example, both ways', () => {
    expect(toHex(encodeXid(SAYS))).toBe(EXAMPLE);
    expect(decodeXid(fromHex(EXAMPLE) as Uint8Array)).toEqual(SAYS);
  });

  it('comes back as it was sent', () => {
    fc.assert(
      fc.property(anyAbilities, (abilities) => expect(decodeXid(encodeXid(abilities))).toEqual(abilities)),
    );
  });

  it('keeps the defaults for what is not sent, and passes over what it does not know', () => {
    expect(decodeXid(fromHex('82800000') as Uint8Array)).toEqual(USUAL_ABILITIES);
    expect(decodeXid(fromHex('82800006' + '7f0101' + '080107') as Uint8Array)).toEqual({
      ...USUAL_ABILITIES,
      receiveWindow: 7,
    });
  });

  it.each([
    ['8280', 'the XID field is cut short'],
    ['8380000000', 'the XID field is of another format or group'],
    ['82800010', 'the XID field is cut short'],
    ['828000020602', 'an XID parameter is cut short'],
  ])('%s: %s', (hex, reason) =>
    expect(decodeXid(fromHex(hex) as Uint8Array)).toMatchObject({ malformed: reason }),
  );

  it('any octets are a value or a reason', () => {
    const near = fc
      .uint8Array({ maxLength: 20 })
      .map((tail) => Uint8Array.of(0x82, 0x80, 0, tail.length, ...tail));
    fc.assert(fc.property(near, (info) => expect(() => decodeXid(info)).not.toThrow()));
  });

  it('agrees on the lesser', () => {
    const theirs = {
      ...SAYS,
      modulo: 8 as const,
      recovery: 'reject' as const,
      receiveWindow: 7,
      retries: 12,
    };
    expect(agreed(SAYS, theirs)).toEqual({
      ...SAYS,
      modulo: 8,
      recovery: 'reject',
      receiveWindow: 2,
      retries: 12,
    });
  });
});

describe('segments', () => {
  // from: AX.25 v2.2, "Segmenter state machine": F bit and count
  it('count down, the first marked, and carry the PID', () => {
    const parts = segment(0xf0, Uint8Array.of(1, 2, 3, 4), 3);
    expect(parts.map(toHex)).toEqual(['82f001', '010203', '0004']);
    expect(() => segment(0xf0, new Uint8Array(300), 3)).toThrow(RangeError);
  });

  const collect = (parts: readonly Uint8Array[]): unknown[] => {
    let state: Reassembly = NO_SEGMENTS;
    const out: unknown[] = [];
    for (const part of parts) {
      const [next, result] = reassemble(state, part);
      state = next;
      if (result !== undefined) out.push(result);
    }
    return out;
  };

  it('come back whole', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 500 }), fc.integer({ min: 6, max: 256 }), (octets, longest) => {
        expect(collect(segment(0xcc, octets, longest))).toEqual([{ pid: 0xcc, octets }]);
      }),
    );
  });

  it('with one missing say so, and the next set is whole again', () => {
    const [a, b, c] = segment(0xf0, Uint8Array.of(1, 2, 3, 4), 3) as [Uint8Array, Uint8Array, Uint8Array];
    const whole = { pid: 0xf0, octets: Uint8Array.of(1, 2, 3, 4) };
    const missing = { malformed: 'a segment is missing', at: 0 };
    expect(collect([a, c, a, b, c])).toEqual([missing, whole]);
    expect(collect([a, a, b, c])).toEqual([missing, whole]);
  });
});

describe('FRMR', () => {
  // from: AX.25 v2.2, "Frame Reject (FRMR) response": V(R) C/R V(S) 0, then 0000ZYXW
  const reject: FrameReject = { control: 0xb5, vs: 3, vr: 5, response: true, reasons: ['invalid N(R)'] };

  it('is three octets modulo 8, five modulo 128', () => {
    expect(toHex(encodeFrameReject(reject, 8))).toBe('b5b608');
    expect(toHex(encodeFrameReject({ ...reject, control: 0x1234 }, 128))).toBe('3412060b08');
  });

  it('comes back, and is refused when cut short', () => {
    fc.assert(
      fc.property(
        fc.nat(7),
        fc.nat(7),
        fc.boolean(),
        fc.constantFrom(8 as const, 128 as const),
        (vs, vr, response, modulo) => {
          const sent = { ...reject, vs, vr, response };
          const info = encodeFrameReject(sent, modulo);
          expect(decodeFrameReject(info, modulo)).toEqual(sent);
          expect(isMalformed(decodeFrameReject(info.subarray(0, -1), modulo))).toBe(true);
        },
      ),
    );
  });
});
