import type { DecoderName } from '@mistpeak/core/modem/demodulator';
import { oneChannel, type Channel } from '@mistpeak/core/wav/one-channel';
import { WavDecoder } from '@mistpeak/core/wav/wav';
import { BLOCKS_A_SECOND, REPORT_EVERY_BLOCKS, stereo } from '@mistpeak/link/sound-setup';
import { WatchedTnc } from '@mistpeak/link/watched-tnc';
import type { PlayBlock } from '../adapters/sound/play-queue';
import { Slowness } from './slowness';
import type { FromSoundWorker, ToSoundWorker } from './sound-messages';

const say = (message: FromSoundWorker): void => self.postMessage(message);

let tnc: WatchedTnc | undefined;

self.onmessage = ({ data }: MessageEvent<ToSoundWorker>): void => {
  switch (data.kind) {
    case 'begin':
      return begin(data);
    case 'file':
      return void readFile(data.file, data.decoder, data.channel).catch((error: unknown) =>
        say({ kind: 'failed', words: error instanceof Error ? error.message : String(error) }),
      );
    case 'kiss':
      return tnc?.take(data.octets);
    case 'send at':
      return tnc?.sendAt(data.levelDbfs, data.twistDb);
    case 'silence':
      return tnc?.silence();
  }
};

function begin({ settings, dataChannel, port }: ToSoundWorker & { kind: 'begin' }): void {
  const made = new WatchedTnc(settings, {
    octets: (octets) => say({ kind: 'octets', octets }),
    key: () => undefined,
    dice: () => Math.random(),
  });
  tnc = made;
  const slowness = new Slowness(settings.rateHz);
  let blocks = 0;
  port.onmessage = ({ data: samples }: MessageEvent<Float32Array>) => {
    const begun = performance.now();
    const wasKeyed = made.isKeyed;
    const { data, tone } = made.run(samples);
    if (wasKeyed) {
      const [left, right] = stereo(dataChannel, data, tone);
      port.postMessage({ left, right, isLast: !made.isKeyed } satisfies PlayBlock);
    }
    if (slowness.note(samples.length, performance.now() - begun) && settings.decoder !== 'light') {
      made.decodeBy('light');
      say({ kind: 'slow' });
    }
    if (++blocks % REPORT_EVERY_BLOCKS === 0)
      say({ kind: 'report', report: made.report(), atMs: Date.now() });
  };
}

/** A file of sound in place of the sound card: as fast as it goes, with the times of the file up to now. */
async function readFile(file: Blob, decoder: DecoderName, channel: Channel): Promise<void> {
  const wav = new WavDecoder();
  let heard: WatchedTnc | undefined;
  let rateHz = 0;
  let seconds = 0;
  let read = 0;
  const reader = file.stream().getReader();
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    read += part.value.length;
    const sound = wav.push(part.value);
    if ('malformed' in sound) throw new Error(sound.malformed);
    const { format } = wav;
    if (!format) continue;
    rateHz = format.rateHz;
    heard ??= new WatchedTnc(
      { rateHz, decoder, levelDbfs: -100 },
      { octets: () => undefined, key: () => undefined, dice: () => 1 },
    );
    const chosen = oneChannel(sound, format.channels, channel);
    const block = Math.round(rateHz / BLOCKS_A_SECOND);
    for (let at = 0; at < chosen.length; at += block) heard.run(chosen.subarray(at, at + block));
    seconds += chosen.length / rateHz;
    say({ kind: 'report', report: heard.report(), atMs: Date.now() });
    say({ kind: 'progress', share: read / file.size });
  }
  if (!heard) throw new Error('there is no sound in this file');
  // What a decoder holds back it gives when silence follows.
  heard.run(new Float32Array(rateHz));
  say({ kind: 'report', report: heard.report(), atMs: Date.now() });
  say({ kind: 'file done', seconds });
}
