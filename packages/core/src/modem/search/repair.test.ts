import fc from 'fast-check';
import { encodeFrame, uiFrame } from '../../ax25/frame.js';
import { fromHex, fromLatin1 } from '../../bits/octets.js';
import { frameBits } from '../../hdlc/bit-stream.js';
import { NrziEncoder, NrziLine } from '../../hdlc/line-code.js';
import { isSentByAprs, repair, type Doubt } from './repair.js';

const FRAME = encodeFrame(uiFrame('QH4MPK-7', 'APZMPK', [], fromLatin1('>on the ridge')));
/** Tones from the last of one flag to the last of the next. */
const tonesOf = (frame: Uint8Array): Uint8Array => new NrziEncoder().push(frameBits(frame, 1, 1)).subarray(7);
/** Two tones in exchange: the shortest other way between the same places of the phase. */
const exchanged = (tones: Uint8Array, ...places: readonly number[]): Uint8Array => {
  const changed = tones.slice();
  for (const at of places) for (const one of [at, at - 1]) changed[one] = (changed[one] as number) ^ 1;
  return changed;
};
const nrzi = (): NrziLine => new NrziLine();
const doubtAt = (at: number, margin = 0): Doubt => ({ at, margin, mask: 0b11 });

describe('a repair', () => {
  const tones = tonesOf(FRAME);

  it('turns one choice or two round, and says how many', () => {
    const doubts = [doubtAt(30), doubtAt(50), doubtAt(90)];
    expect(repair(exchanged(tones, 50), doubts, nrzi)).toEqual({ raw: FRAME, repairs: 1 });
    expect(repair(exchanged(tones, 30, 90), doubts, nrzi)).toEqual({ raw: FRAME, repairs: 2 });
    expect(repair(exchanged(tones, 30, 50, 90), doubts, nrzi)).toBeUndefined();
    expect(repair(exchanged(tones, 40), doubts, nrzi)).toBeUndefined();
  });

  it('gives no frame to a connected session, and none that APRS does not send', () => {
    // Of a connection: command, N(R) 3.
    const rr = encodeFrame({
      ...uiFrame('QH2HUT-1', 'QH4MPK', [], new Uint8Array(0)),
      control: { kind: 'RR', pf: true, nr: 3 },
    });
    const others = [
      rr,
      encodeFrame(uiFrame('QH4MPK', 'APZMPK', [], fromLatin1('binary \x01'))),
      encodeFrame(uiFrame('QH4MPK', 'APZMPK', [], new Uint8Array(0))),
      encodeFrame({ ...uiFrame('QH4MPK', 'APZMPK', [], fromLatin1('ip')), pid: 0xcc }),
    ];
    for (const frame of others) {
      expect(isSentByAprs(frame)).toBe(false);
      const length = tonesOf(frame).length;
      expect(repair(exchanged(tonesOf(frame), length - 20), [doubtAt(length - 20)], nrzi)).toBeUndefined();
    }
  });

  it('takes Mic-E, whose text has octets of its own (APRS 1.0.1, "Mic-E data format")', () => {
    const micE = encodeFrame(uiFrame('QH7CTC-9', 'S32U6T', [], fromHex('601c1d1e1f7f2f3e') as Uint8Array));
    expect(isSentByAprs(micE)).toBe(true);
  });

  it('invents nothing from noise', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(0, 1), { minLength: 150, maxLength: 400 }), (noise) => {
        const doubts = Array.from({ length: 10 }, (_, i) => doubtAt(2 + 12 * i));
        expect(repair(Uint8Array.from(noise), doubts, nrzi)).toBeUndefined();
      }),
    );
  });

  it('stays within the tones that it was given', () => {
    expect(repair(tones.subarray(0, 3), [{ at: 0, margin: 0, mask: 0xff }], nrzi)).toBeUndefined();
  });
});
