import fc from 'fast-check';
import { fromHex, toHex } from '../bits/octets.js';
import { bitsOnAir } from './air-time.js';
import { frameBits, HdlcDecoder } from './bit-stream.js';
import { Descrambler, NrziDecoder, NrziEncoder, Scrambler } from './line-code.js';

const EXAMPLE = fromHex('82a0b49aa096e09c60868298986eae92888a624062ae92888a64406303f03e6869') as Uint8Array;
const anyFrame = fc.uint8Array({ minLength: 15, maxLength: 330 });
const anyBits = fc.uint8Array({ max: 1, maxLength: 400 });

const frames = (bits: Uint8Array, decoder = new HdlcDecoder()): string[] =>
  decoder.push(bits).map((item) => ('discarded' in item ? item.discarded : toHex(item)));

describe('bits on the air', () => {
  // arithmetic: the worked example is 297 bits with one flag at each end
  it('are as many as the air time counts', () => {
    expect(frameBits(EXAMPLE)).toHaveLength(297);
    fc.assert(fc.property(anyFrame, (frame) => expect(frameBits(frame)).toHaveLength(bitsOnAir(frame))));
  });

  // from: ISO/IEC 13239: flag 01111110, low bit first
  it('begin and end with a flag', () => {
    const bits = [...frameBits(EXAMPLE, 2, 1)];
    expect(bits.slice(0, 16)).toEqual([0, 1, 1, 1, 1, 1, 1, 0, 0, 1, 1, 1, 1, 1, 1, 0]);
    expect(bits.slice(-8)).toEqual([0, 1, 1, 1, 1, 1, 1, 0]);
  });

  it('give back any frames, cut anywhere, with shared flags and noise before', () => {
    fc.assert(
      fc.property(
        fc.array(anyFrame, { maxLength: 3 }),
        anyBits,
        fc.integer({ min: 1, max: 97 }),
        (sent, noise, cut) => {
          const whole = [
            ...noise,
            ...sent.flatMap((frame) => [...frameBits(frame, 2, 0)]),
            ...frameBits(EXAMPLE),
          ];
          const decoder = new HdlcDecoder();
          const heard: string[] = [];
          for (let at = 0; at < whole.length; at += cut)
            heard.push(...frames(Uint8Array.from(whole.slice(at, at + cut)), decoder));
          expect(heard.filter((text) => /^[0-9a-f]*$/.test(text)).slice(-sent.length - 1)).toEqual(
            [...sent, EXAMPLE].map(toHex),
          );
        },
      ),
    );
  });

  it('with one bit wrong give no frame', () => {
    const clean = frameBits(EXAMPLE);
    for (let at = 8; at < clean.length - 8; at++) {
      const bits = clean.slice();
      bits[at] = (bits[at] as number) ^ 1;
      expect(frames(bits).filter((text) => /^[0-9a-f]*$/.test(text))).toEqual([]);
    }
  });

  it('tell why they are no frame', () => {
    const bits = [...frameBits(EXAMPLE)];
    const ones = Array.from({ length: 8 }, () => 1);
    const flag = bits.slice(0, 8);
    expect(frames(Uint8Array.from([...bits.slice(0, 200), ...ones]))).toEqual(['aborted']);
    expect(frames(Uint8Array.from([...bits.slice(0, 281), ...flag]))).toEqual(['bad FCS']);
    expect(frames(Uint8Array.from([...bits.slice(0, 286), ...flag]))).toEqual(['not whole octets']);
    expect(frames(Uint8Array.from([...flag, ...Array.from({ length: 40_000 }, (_, i) => i & 1)]))).toEqual([
      'too long',
    ]);
  });
});

describe('discards', () => {
  it('are counted by reason', () => {
    const bits = [...frameBits(EXAMPLE)];
    const flag = bits.slice(0, 8);
    const decoder = new HdlcDecoder();
    decoder.push(Uint8Array.from([...bits.slice(0, 281), ...flag, ...bits.slice(8, 286), ...flag]));
    decoder.push(Uint8Array.from([...bits.slice(8, 200), ...Array.from({ length: 8 }, () => 1)]));
    decoder.push(frameBits(new Uint8Array(4097)));
    decoder.push(frameBits(EXAMPLE));
    expect(decoder.discards).toEqual({ 'bad FCS': 1, 'not whole octets': 1, aborted: 1, 'too long': 1 });
  });
});

describe('the bounds of a frame', () => {
  const begun = [...frameBits(EXAMPLE)].slice(0, 200);
  const times = (bit: number, n: number): number[] => Array.from({ length: n }, () => bit);

  // from: ISO/IEC 13239: a flag has six 1s, seven are an abort
  it('is aborted by the seventh 1, not by the sixth', () => {
    const tail = [0, ...frameBits(EXAMPLE)];
    expect(frames(Uint8Array.from([...begun, 0, ...times(1, 7), ...tail]))).toEqual([
      'aborted',
      toHex(EXAMPLE),
    ]);
    expect(frames(Uint8Array.from([...begun, 0, ...times(1, 6), ...tail]))[0]).not.toBe('aborted');
  });

  it('is 4096 octets and the FCS at most, to the octet', () => {
    const long = (octets: number): string[] => frames(frameBits(new Uint8Array(octets)));
    expect(long(4096)).toEqual([toHex(new Uint8Array(4096))]);
    expect(long(4097)).toEqual(['too long']);
  });

  it('is 15 octets and the FCS at least: what is shorter is silence', () => {
    const short = (octets: number): string[] => frames(frameBits(EXAMPLE.slice(0, octets)));
    expect(short(15)).toEqual([toHex(EXAMPLE.slice(0, 15))]);
    expect(short(14)).toEqual([]);
  });
});

describe('line codes', () => {
  // from: AX.25 v2.2: a 0 is a transition, a 1 none
  it('NRZI changes the level at a 0', () => {
    expect([...new NrziEncoder().push(Uint8Array.of(1, 0, 0, 1, 0, 1))]).toEqual([0, 1, 0, 0, 1, 1]);
  });

  // arithmetic: an impulse comes out at once, after 12 and 17 bits, and from there on by the recurrence
  it('the scrambler has taps at 12 and 17', () => {
    const impulse = Uint8Array.from({ length: 25 }, (_, i) => (i === 0 ? 1 : 0));
    const places = [...new Scrambler().push(impulse)].flatMap((bit, i) => (bit ? [i] : []));
    expect(places).toEqual([0, 12, 17, 24]);
  });

  it.each([
    ['NRZI', NrziEncoder, NrziDecoder],
    ['scrambling', Scrambler, Descrambler],
  ])('%s is undone, cut anywhere', (_, Encoder, Decoder) => {
    fc.assert(
      fc.property(anyBits, fc.nat(400), (bits, cut) => {
        const [encoder, decoder] = [new Encoder(), new Decoder()];
        const sent = [...encoder.push(bits.slice(0, cut)), ...encoder.push(bits.slice(cut))];
        expect([...decoder.push(Uint8Array.from(sent))]).toEqual([...bits]);
      }),
    );
  });

  it('a descrambler that starts late is right after 17 bits', () => {
    const bits = Uint8Array.from({ length: 200 }, (_, i) => (i * i) & 1);
    const sent = new Scrambler().push(bits);
    expect([...new Descrambler().push(sent.slice(50))].slice(17)).toEqual([...bits.slice(67)]);
  });
});
