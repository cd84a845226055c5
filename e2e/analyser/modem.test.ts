import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { concatOctets, fromLatin1, toHex } from '@mistpeak/core/bits/octets';
import { DECODERS, Demodulator } from '@mistpeak/core/modem/demodulator';
import { AfskModulator, transmissionBits } from '@mistpeak/core/modem/modulator';
import { BELL_202 } from '@mistpeak/core/modem/tones';
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
  file: string,
  more: readonly string[],
  input = new Uint8Array(),
): string {
  const raw = ['-M', '1200', '-S', '2200', '--startbits', '0', '--stopbits', '0'];
  return execFileSync('minimodem', [way, '--quiet', '--file', file, ...raw, ...more, '1200'], {
    encoding: 'latin1',
    stdio: ['pipe', 'pipe', 'ignore'],
    input,
  });
}

const BITS = transmissionBits([FRAME], BELL_202, { txDelayMs: 300, txTailMs: 100 });
/** NRZI by hand: a 0 changes the tone (ISO/IEC 13239); minimodem calls mark 1. */
let level = 0;
const LEVELS = [...BITS].map((bit) => (level ^= bit ^ 1));

describe('beside a general FSK tool', () => {
  it('our tones carry the bits that we meant', () => {
    const sound = samples16(new AfskModulator({ rateHz: RATE_HZ, levelDbfs: -6 }).push(BITS));
    const file = join(folder, 'ours.wav');
    writeFileSync(file, concatOctets(wavHeader(RATE_HZ, 1, sound.length), sound));
    // It may lose some bits at the ends; the frame lies in the middle.
    const middle = LEVELS.join('').slice(8 * 20, -8 * 8);
    expect(minimodem('--rx', file, ['--binary-raw', '8']).replace(/[^01]/g, '')).toContain(middle);
  });

  it('we read the tones that it makes', () => {
    // Eight raw bits to an octet, the first in the lowest place.
    const octets = Uint8Array.from({ length: Math.ceil(LEVELS.length / 8) }, (_, i) =>
      LEVELS.slice(8 * i, 8 * i + 8).reduce((octet, bit, at) => octet | (bit << at), 0),
    );
    const file = join(folder, 'theirs.wav');
    minimodem('--tx', file, ['--samplerate', String(RATE_HZ)], octets);
    const wav = new WavDecoder();
    const samples = wav.push(readFileSync(file)) as Float32Array;
    expect(wav.format).toMatchObject({ rateHz: RATE_HZ, channels: 1 });
    for (const decoder of DECODERS)
      expect(new Demodulator(RATE_HZ, decoder).push(withQuiet(samples)).map(({ raw }) => toHex(raw))).toEqual(
        [toHex(FRAME)],
      );
  });
});
