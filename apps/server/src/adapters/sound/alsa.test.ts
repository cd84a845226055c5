import { failureOfAlsa, readNames } from './alsa.js';

it('lists cards by the name that they keep, and none of the other ways to them', () => {
  const text = `null
    Discard all samples
default
sysdefault:CARD=Device
    USB PnP Sound Device, USB Audio
hw:CARD=Device,DEV=0
    Direct hardware device without any conversions
plughw:CARD=Device,DEV=0
    USB PnP Sound Device, USB Audio
radio
    A name of one's own
`;
  expect(readNames(text)).toEqual(['default', 'plughw:CARD=Device,DEV=0', 'radio']);
  expect(readNames('')).toEqual([]);
});

/** What arecord and aplay of alsa-utils 1.2 write (their source, aplay.c; from memory). */
it.each([
  ['arecord: main:831: audio open error: Device or resource busy', false, 'sound-busy'],
  ['arecord: main:831: audio open error: No such file or directory', false, 'no-such-sound'],
  ['ALSA lib pcm.c:2666:(snd_pcm_open_noupdate) Unknown PCM radio', false, 'no-such-sound'],
  ['arecord: set_params:1358: Sample format non available', false, 'no-sound'],
  ['arecord: set_params:1345: Sample format not available', false, 'sound-rate'],
  ['aplay: set_params:1403: Rate 48000Hz not available for playback', false, 'sound-rate'],
  ['Warning: rate is not accurate (requested = 48000Hz, got = 8000Hz)', true, 'sound-rate'],
  ['arecord: pcm_read:2221: read error: No such device', true, 'sound-gone'],
  ['', true, 'sound-gone'],
  ['something else', false, 'no-sound'],
])('%s', (words, isOpen, failure) => expect(failureOfAlsa(words, isOpen).failure).toBe(failure));
