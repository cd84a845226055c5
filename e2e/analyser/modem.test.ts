import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { concatOctets, fromLatin1, toHex } from '@mistpeak/core/bits/octets';
import { DECODERS, Demodulator } from '@mistpeak/core/modem/demodulator';
import { AfskModulator, transmissionBits } from '@mistpeak/core/modem/modulator';
import { BasebandModulator } from '@mistpeak/core/modem/baseband/modulator';
import { BELL_202, HF_300, SCRAMBLED_9600, type Tones } from '@mistpeak/core/modem/tones';
import { samples16, WavDecoder, wavHeader } from '@mistpeak/core/wav/wav';

jest.setTimeout(120_000);

const RATE_HZ = 48_000;
const FRAME = encodeFrame(
  uiFrame('QH4MPK-7', 'APZMPK', [{ call: 'WIDE1-1', used: false }], fromLatin1('>a modem heard by another')),
);

/** A second of silence: the default decoder knows a frame some time after its end. */
function withQuiet(samples: Float32Array): Float32Array {
  const longer = new Float32Array(samples.length + RATE_HZ);
  longer.set(samples);
  return longer;
}

let folder: string;
beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'mistpeak-modem-'))));
afterAll(() => rmSync(folder, { recursive: true }));

/**
 * Debian’s minimodem, a general FSK tool, takes bits for tones and tones for bits; it knows nothing of HDLC or of us.
 * What it prints, one character an octet.
 */
function minimodem(
  way: '--rx' | '--tx',
  { markHz, spaceHz, baud }: Tones,
  file: string,
  more: readonly string[],
  input = new Uint8Array(),
): string {
  const raw = ['-M', String(markHz), '-S', String(spaceHz), '--startbits', '0', '--stopbits', '0'];
  return execFileSync('minimodem', [way, '--quiet', '--file', file, ...raw, ...more, String(baud)], {
    encoding: 'latin1',
    stdio: ['pipe', 'pipe', 'ignore'],
    input,
  });
}

const TIMES = { txDelayMs: 300, txTailMs: 100 };

/** NRZI by hand: a 0 changes the tone (ISO/IEC 13239); minimodem calls mark 1. */
function levelsOf(bits: Uint8Array): number[] {
  let level = 0;
  return [...bits].map((bit) => (level ^= bit ^ 1));
}

/** An independent script of NumPy; see its head. */
const script = (args: readonly string[], input = ''): string =>
  execFileSync('python3', [join(import.meta.dirname, 'sound.py'), ...args], { encoding: 'utf8', input });

const write = (file: string, sound: Float32Array, rateHz = RATE_HZ): void => {
  const octets = samples16(sound);
  writeFileSync(file, concatOctets(wavHeader(rateHz, 1, octets.length), octets));
};

const read = (file: string): Float32Array => {
  const wav = new WavDecoder();
  const samples = wav.push(readFileSync(file)) as Float32Array;
  expect(wav.format).toMatchObject({ channels: 1, bits: 16 });
  return samples;
};

describe.each([BELL_202, HF_300])('beside a general FSK tool, at $baud baud', (tones) => {
  const bits = transmissionBits([FRAME], tones, TIMES);
  const levels = levelsOf(bits);

  it('our tones carry the bits that we meant', () => {
    const file = join(folder, 'ours.wav');
    write(file, new AfskModulator({ rateHz: RATE_HZ, levelDbfs: -6, tones }).push(bits));
    // It may lose some bits at the ends; the frame lies in the middle.
    const flags = (TIMES.txDelayMs * tones.baud) / 8000;
    const middle = levels.slice(8 * Math.floor(flags / 2), -8).join('');
    expect(minimodem('--rx', tones, file, ['--binary-raw', '8']).replace(/[^01]/g, '')).toContain(middle);
  });

  it('we read the tones that it makes', () => {
    // Eight raw bits to an octet, the first in the lowest place.
    const octets = Uint8Array.from({ length: Math.ceil(levels.length / 8) }, (_, i) =>
      levels.slice(8 * i, 8 * i + 8).reduce((octet, bit, at) => octet | (bit << at), 0),
    );
    const file = join(folder, 'theirs.wav');
    minimodem('--tx', tones, file, ['--samplerate', String(RATE_HZ)], octets);
    const samples = withQuiet(withQuiet(read(file)));
    for (const decoder of DECODERS)
      expect(new Demodulator(RATE_HZ, decoder, tones).push(samples).map(({ raw }) => toHex(raw))).toEqual([
        toHex(FRAME),
      ]);
  });
});

describe('beside an independent script', () => {
  // A hundred bits of one tone, a hundred of the other: a change of tone is a 0.
  const inTurn = Uint8Array.from({ length: 2000 }, (_, i) => (i % 100 === 0 ? 0 : 1));

  // Within 1 Hz and 0.1 dB: Bell 202 gives 1200 and 2200 Hz; the accuracy is our own goal.
  it.each([8000, 11_025, 44_100, 48_000])(
    'our tones at %i Hz are where they should be, and as strong',
    (rateHz) => {
      const file = join(folder, 'tones.wav');
      for (const twistDb of [0, 5.3]) {
        write(file, new AfskModulator({ rateHz, levelDbfs: -6, twistDb }).push(inTurn), rateHz);
        const found = JSON.parse(script(['tones', file])) as Record<'markHz' | 'spaceHz' | 'twistDb', number>;
        expect(Math.abs(found.markHz - 1200)).toBeLessThan(1);
        expect(Math.abs(found.spaceHz - 2200)).toBeLessThan(1);
        expect(Math.abs(found.twistDb - twistDb)).toBeLessThan(0.1);
      }
    },
  );

  it('reads our 9600 baud, and we read what it makes', () => {
    const bits = transmissionBits([FRAME], SCRAMBLED_9600, { txDelayMs: 50, txTailMs: 10 });
    const file = join(folder, '9600.wav');
    write(file, new BasebandModulator({ rateHz: RATE_HZ, levelDbfs: -9 }).push(bits));
    expect(script(['read-9600', file])).toContain(bits.subarray(40, -40).join(''));
    for (const rateHz of [22_050, RATE_HZ]) {
      script(['write-9600', file, String(rateHz)], bits.join(''));
      for (const decoder of DECODERS)
        expect(
          new Demodulator(rateHz, decoder, SCRAMBLED_9600)
            .push(withQuiet(read(file)))
            .map(({ raw }) => toHex(raw)),
        ).toEqual([toHex(FRAME)]);
    }
  });
});
