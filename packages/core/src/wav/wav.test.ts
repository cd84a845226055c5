import fc from 'fast-check';
import { concatOctets, fromHex, fromLatin1 } from '../bits/octets.js';
import { samples16, WavDecoder, wavHeader } from './wav.js';

const le = (value: number, octets: number): string =>
  Array.from({ length: octets }, (_, i) =>
    ((value / 2 ** (8 * i)) & 0xff).toString(16).padStart(2, '0'),
  ).join('');
const text = (letters: string): string => Buffer.from(letters, 'latin1').toString('hex');

/** A file octet by octet, from the form's description (Multimedia Programming Interface 1.0, chapter "WAVE"; from memory). */
function file(
  code: number,
  bits: number,
  dataHex: string,
  { channels = 1, rateHz = 8000, length = dataHex.length / 2, more = '' } = {},
): Uint8Array {
  const format =
    le(code, 2) +
    le(channels, 2) +
    le(rateHz, 4) +
    le((rateHz * channels * bits) / 8, 4) +
    le((channels * bits) / 8, 2) +
    le(bits, 2) +
    more;
  return fromHex(
    text('RIFF') +
      le(0, 4) +
      text('WAVE') +
      text('fmt ') +
      le(format.length / 2, 4) +
      format +
      text('data') +
      le(length, 4) +
      dataHex,
  ) as Uint8Array;
}

function read(octets: Uint8Array): number[] | string {
  const decoder = new WavDecoder();
  const samples = decoder.push(octets);
  if ('malformed' in samples) return samples.malformed;
  return decoder.end()?.malformed ?? [...samples];
}

describe('a sound file', () => {
  it.each([
    ['8 bits, unsigned', 1, 8, '0080ff', [-1, 0, 127 / 128]],
    ['16 bits', 1, 16, '00800000ff7f', [-1, 0, 32_767 / 32_768]],
    ['24 bits', 1, 24, '000080000000ffff7f', [-1, 0, 8_388_607 / 8_388_608]],
    ['32 bits', 1, 32, '0000008000000000', [-1, 0]],
    // IEEE 754: 3F000000 is 0.5, BF800000 is −1.
    ['32 bits, floating', 3, 32, '0000003f000080bf', [0.5, -1]],
    ['64 bits, floating', 3, 64, '000000000000e03f', [0.5]],
  ])('of %s', (_, code, bits, data, samples) => expect(read(file(code, bits, data))).toEqual(samples));

  it('of the extensible form, with chunks before its sound', () => {
    const more = `${le(22, 2)}${le(16, 2)}${le(0, 4)}${le(1, 2)}000000001000800000aa00389b71`;
    expect(read(file(0xfffe, 16, '0040', { more }))).toEqual([0.5]);
    const plain = file(1, 16, '0040');
    const odd = fromHex(`${text('LIST')}${le(3, 4)}61626300`) as Uint8Array;
    expect(read(concatOctets(concatOctets(plain.subarray(0, 12), odd), plain.subarray(12)))).toEqual([0.5]);
  });

  it('that does not say how long it is, or says too much, is read to its end; what follows its sound is not', () => {
    for (const length of [0, 0xffffffff, 1000])
      expect(read(file(1, 16, '00400040', { length }))).toEqual([0.5, 0.5]);
    expect(read(file(1, 16, '0040ffff', { length: 2 }))).toEqual([0.5]);
  });

  it('of ten channels gives them in turn', () => {
    const decoder = new WavDecoder();
    expect(decoder.push(file(1, 8, '80'.repeat(25), { channels: 10 }))).toHaveLength(20);
    expect(decoder.format).toMatchObject({ channels: 10, rateHz: 8000 });
  });

  it.each([
    ['not a sound file of the WAV form', fromLatin1('OggS and more of it')],
    ['not a sound file of the WAV form', fromLatin1('RIFF1234AVI and more')],
    ['the file ends before its sound', new Uint8Array(0)],
    ['the file ends before its sound', fromLatin1('RIFF')],
    ['the file ends before its sound', file(1, 16, '').subarray(0, 30)],
    ['sound of kind 2 with 4 bits is not read', file(2, 4, '')],
    ['sound of kind 3 with 16 bits is not read', file(3, 16, '')],
    ['0 channels are not read', file(1, 16, '', { channels: 0 })],
    ['a sample rate of 0', file(1, 16, '', { rateHz: 0 })],
  ])('refused: %s', (why, octets) => expect(read(octets)).toBe(why));

  it('gives the same however it is cut', () => {
    const octets = file(1, 24, '0102030405060708090a0b0c', { channels: 2 });
    const whole = read(octets);
    for (let cut = 1; cut < octets.length; cut++) {
      const decoder = new WavDecoder();
      const parts = [octets.subarray(0, cut), octets.subarray(cut)].flatMap((part) => [
        ...(decoder.push(part) as Float32Array),
      ]);
      expect(parts).toEqual(whole);
    }
  });

  it('of any octets ends, with a reason or with sound', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), fc.boolean(), (junk, hasHead) => {
        const octets = hasHead ? concatOctets(fromLatin1('RIFF0000WAVE'), junk) : junk;
        expect(['string', 'object']).toContain(typeof read(octets));
      }),
    );
  });

  it('whose first megabyte holds no sound is given up, and not sooner', () => {
    const start = concatOctets(
      file(1, 16, '0040').subarray(0, 12),
      fromHex(`${text('LIST')}${le(1 << 22, 4)}`) as Uint8Array,
    );
    const decoder = new WavDecoder();
    decoder.push(start);
    expect(decoder.push(new Uint8Array((1 << 20) - start.length))).toHaveLength(0);
    expect(decoder.push(new Uint8Array(1))).toMatchObject({
      malformed: 'no sound data in the first megabyte',
    });
  });

  it('of an endless header is refused', () => {
    const decoder = new WavDecoder();
    decoder.push(fromLatin1('RIFF0000WAVEjunk\xff\xff\xff\x7f'));
    for (let i = 0; i < 2; i++) decoder.push(new Uint8Array(1 << 20));
    expect(decoder.end()).toMatchObject({ malformed: 'no sound data in the first megabyte' });
  });
});

describe('what we write', () => {
  it('is read back; what is too loud is held at full scale', () => {
    const samples = Float32Array.of(0, 0.5, -1, 2, -2);
    const octets = samples16(samples);
    expect(read(concatOctets(wavHeader(44_100, 1, octets.length), octets))).toEqual([
      0,
      0.5,
      -1,
      32_767 / 32_768,
      -1,
    ]);
  });
});
