import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1, toHex } from '@mistpeak/core/bits/octets';
import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import { kissParameterFrames, USUAL_KISS_PARAMETERS } from '@mistpeak/core/kiss/parameters';
import { Demodulator, type DemodulatedFrame } from '@mistpeak/core/modem/demodulator';
import { addNoise } from '@mistpeak/core/modem/generator/noise';
import { SpeechLike } from '@mistpeak/core/modem/generator/speech';
import { SCRAMBLED_9600 } from '@mistpeak/core/modem/tones';
import { seededDice } from '@mistpeak/core/network/dice';
import { SoundTnc, type SoundTncHost, type SoundTncSettings } from './sound-tnc.js';

const RATE_HZ = 11_025;
const BLOCK = 256;
const frame = (text: string): Uint8Array =>
  encodeFrame(uiFrame('QH4MPK-7', 'APZMPK', [], fromLatin1(`>${text}`)));
const data = (raw: Uint8Array): Uint8Array => encodeKiss({ port: 0, command: 'data', payload: raw });

/** One TNC with a record of what it did. */
function station(settings: Partial<SoundTncSettings> = {}, more: Partial<SoundTncHost> = {}) {
  const decoder = new KissDecoder();
  const kiss: string[] = [];
  const heard: DemodulatedFrame[] = [];
  const keys: [block: number, isDown: boolean][] = [];
  const lost: string[] = [];
  let block = 0;
  const tnc = new SoundTnc(
    { rateHz: RATE_HZ, decoder: 'light', levelDbfs: -12, ...settings },
    {
      octets: (octets) => {
        for (const item of decoder.push(octets)) if ('payload' in item) kiss.push(toHex(item.payload));
      },
      heard: (one) => heard.push(one),
      key: (isDown) => keys.push([block, isDown]),
      dice: () => 0,
      lost: (raw, reason) => lost.push(`${toHex(raw)} ${reason}`),
      ...more,
    },
  );
  const run = (input: Float32Array) => {
    block++;
    return tnc.run(input);
  };
  return { tnc, run, kiss, heard, keys, lost };
}

/** Stations that hear one another by sound, with some hiss; returns the sum of all that was sent. */
function together(stations: readonly ReturnType<typeof station>[], seconds: number, seed = 1): Float32Array {
  const dice = seededDice(seed);
  const all = new Float32Array(Math.ceil((seconds * RATE_HZ) / BLOCK) * BLOCK);
  let sent: Float32Array[] = stations.map(() => new Float32Array(BLOCK));
  for (let at = 0; at < all.length; at += BLOCK) {
    const air = new Float32Array(BLOCK);
    for (const one of sent) one.forEach((sample, i) => (air[i] = (air[i] as number) + sample));
    all.set(air, at);
    addNoise(air, 0.003, dice);
    sent = stations.map(({ run }, i) => {
      const own = sent[i] as Float32Array;
      return run(air.map((sample, at) => sample - (own[at] as number))).data;
    });
  }
  return all;
}

describe('a sound card as a TNC', () => {
  it('sends what comes as KISS, and gives as KISS what it hears, with what was measured', () => {
    const [a, b] = [station(), station()];
    a.tnc.take(data(frame('one')));
    a.tnc.take(data(frame('two')));
    together([a, b], 4);
    expect(b.kiss).toEqual([frame('one'), frame('two')].map(toHex));
    expect(b.heard.map(({ levelDbfs }) => Math.round(levelDbfs))).toEqual([-12, -12]);
    // It does not hear itself.
    expect(a.kiss).toEqual([]);
    expect(a.keys.map(([, isDown]) => isDown)).toEqual([true, false, true, false]);
    expect([a.tnc.isKeyed, a.tnc.waiting, a.tnc.busy]).toEqual([false, 0, undefined]);
  });

  it('goes on with another decoder, and counts the time on; what was listened to is told block by block', () => {
    let listened = 0;
    const framesAt: number[] = [];
    const a = station();
    const b = station(
      {},
      {
        listened: (samples, busy, frames) => {
          listened += samples.length;
          framesAt.push(...frames.map(({ atMs }) => atMs));
          if (frames.length > 0) expect(busy === 'data' || busy === undefined).toBe(true);
        },
      },
    );
    a.tnc.take(data(frame('one')));
    together([a, b], 4);
    b.tnc.decodeBy('default');
    a.tnc.take(data(frame('two')));
    together([a, b], 4);
    expect(b.kiss).toHaveLength(2);
    expect(listened / RATE_HZ).toBeCloseTo(8, 0);
    const [one, two] = framesAt as [number, number];
    expect(one).toBeLessThan(4000);
    expect(two).toBeGreaterThan(4000);
  });

  it('sends as loud as it is told, from the next over on', () => {
    const [a, b] = [station(), station()];
    a.tnc.sendAt(-20, 3);
    a.tnc.take(data(frame('quiet')));
    together([a, b], 4);
    expect(b.heard[0]?.twistDb).toBeCloseTo(3, 0);
    expect(b.heard[0]?.levelDbfs).toBeCloseTo(-21.2, 0);
  });

  it('is set by KISS parameters: TXDELAY and tail are on the air', () => {
    const seconds = (txDelayMs: number, txTailMs: number): number => {
      const { tnc, run, keys } = station();
      for (const one of kissParameterFrames(0, { ...USUAL_KISS_PARAMETERS, txDelayMs, txTailMs }))
        tnc.take(encodeKiss(one));
      tnc.take(data(frame('x')));
      for (let i = 0; i < 400; i++) run(new Float32Array(BLOCK));
      return (((keys[1]?.[0] ?? 0) - (keys[0]?.[0] ?? 0)) * BLOCK) / RATE_HZ;
    };
    expect(seconds(1000, 500) - seconds(100, 20)).toBeCloseTo(1.38, 1);
  });

  it('takes nothing that is not for its one port, and goes on after broken KISS', () => {
    const [a, b] = [station(), station()];
    a.tnc.take(encodeKiss({ port: 1, command: 'data', payload: frame('other port') }));
    a.tnc.take(encodeKiss({ port: 0, command: 'sethardware', payload: Uint8Array.of(1) }));
    a.tnc.take(Uint8Array.of(0xc0, 0, 0xdb, 1, 0xc0, 0xff, 0xc0, 9, 9));
    const good = data(frame('good'));
    a.tnc.take(good.subarray(0, 5));
    a.tnc.take(good.subarray(5));
    together([a, b], 3);
    expect(b.kiss).toEqual([toHex(frame('good'))]);
  });

  it('waits while somebody sends or speaks, and not for the hiss of an open squelch', () => {
    const speech = new SpeechLike(RATE_HZ, seededDice(3)).next(RATE_HZ * 6).map((sample) => 0.3 * sample);
    const hiss = new Float32Array(RATE_HZ * 6);
    addNoise(hiss, 0.2, seededDice(4));
    const keyedWithin = (sound: Float32Array, from: number): boolean => {
      const { tnc, run, keys } = station();
      for (let at = 0; at + BLOCK <= sound.length; at += BLOCK) {
        if (at === from) tnc.take(data(frame('x')));
        run(sound.subarray(at, at + BLOCK));
      }
      return keys.length > 0;
    };
    const second = Math.round(RATE_HZ / BLOCK) * BLOCK;
    expect(keyedWithin(speech.subarray(0, 3 * second), second)).toBe(false);
    expect(keyedWithin(hiss, second)).toBe(true);
    expect(keyedWithin(new Float32Array(3 * second), second)).toBe(true);
  });

  it('on wish waits for any sound: an open squelch then blocks it', () => {
    const hiss = new Float32Array(RATE_HZ * 4);
    addNoise(hiss, 0.2, seededDice(5));
    const { tnc, run, keys } = station({ soundAboveDbfs: -30 });
    for (let at = 0; at + BLOCK <= hiss.length; at += BLOCK) {
      if (at === 4 * BLOCK) tnc.take(data(frame('x')));
      run(hiss.subarray(at, at + BLOCK));
    }
    expect([keys, tnc.busy, tnc.waiting]).toEqual([[], 'sound', 1]);
  });

  it('holds the key by a tone on the other channel, from its first sample to its last', () => {
    const { tnc, run, keys } = station({ rateHz: 44_100, keyingTone: { hz: 12_000, levelDbfs: -6 } });
    tnc.take(data(frame('x')));
    const tones: number[] = [];
    const datas: number[] = [];
    for (let i = 0; i < 400; i++) {
      const out = run(new Float32Array(BLOCK));
      tones.push(...out.tone);
      datas.push(...out.data);
    }
    expect(keys).toHaveLength(2);
    const firstOf = (values: number[]): number => values.findIndex((value) => value !== 0);
    const lastOf = (values: number[]): number => values.findLastIndex((value) => value !== 0);
    expect(Math.abs(firstOf(tones) - firstOf(datas))).toBeLessThanOrEqual(2);
    expect(Math.abs(lastOf(tones) - lastOf(datas))).toBeLessThanOrEqual(2);
    // arithmetic: RMS of a sine of −6 dBFS; the data stays out of the tone's channel.
    const middle = tones.slice(firstOf(tones) + 1000, lastOf(tones) - 1000);
    const rms = Math.sqrt(middle.reduce((sum, x) => sum + x * x, 0) / middle.length);
    expect(20 * Math.log10(rms * Math.SQRT2)).toBeCloseTo(-6, 1);
    // It rises and falls without a click.
    expect(Math.max(...tones.slice(firstOf(tones), firstOf(tones) + 20).map(Math.abs))).toBeLessThan(0.06);
  });

  it.each([
    ['a tone below 10 kHz', { rateHz: 44_100, keyingTone: { hz: 9999, levelDbfs: -6 } }],
    ['a tone that the rate does not carry', { rateHz: 22_050, keyingTone: { hz: 11_025, levelDbfs: -6 } }],
    ['a rate that does not carry the modulation', { rateHz: 11_025, modulation: SCRAMBLED_9600 }],
  ])('refuses %s', (_, settings) => {
    expect(() => station(settings)).toThrow(RangeError);
  });

  it('is silent at once, in the middle of an over too, and tells what is lost', () => {
    const { tnc, run, keys, lost } = station();
    tnc.take(data(frame('x')));
    tnc.take(data(frame('y')));
    for (let i = 0; i < 10; i++) run(new Float32Array(BLOCK));
    expect(tnc.isKeyed).toBe(true);
    tnc.silence();
    expect(keys.at(-1)?.[1]).toBe(false);
    expect(run(new Float32Array(BLOCK)).data.every((sample) => sample === 0)).toBe(true);
    expect(lost).toEqual([`${toHex(frame('y'))} silenced`]);
    tnc.take(data(frame('z')));
    run(new Float32Array(BLOCK));
    expect(tnc.isKeyed).toBe(true);
  });

  it('sends 9600 baud, and hears its carrier', () => {
    const rateHz = 48_000;
    const [a, b] = [
      station({ rateHz, modulation: SCRAMBLED_9600 }),
      station({ rateHz, modulation: SCRAMBLED_9600 }),
    ];
    a.tnc.take(data(frame('fast')));
    let sound: Float32Array = new Float32Array(960);
    let wasBusy = false;
    for (let i = 0; i < 100; i++) {
      b.run(sound);
      wasBusy ||= b.tnc.busy === 'data';
      sound = a.run(new Float32Array(960)).data;
    }
    expect(b.kiss).toEqual([toHex(frame('fast'))]);
    expect([wasBusy, b.tnc.busy]).toEqual([true, undefined]);
  });
});

describe('three of them on one channel', () => {
  it.each([1, 2, 3])('take turns: nearly all of their frames are heard by the others, seed %i', (seed) => {
    const dice = seededDice(seed);
    const stations = [0, 1, 2].map(() => station({}, { dice }));
    const sent = stations.map((one, i) => {
      const frames = Array.from({ length: 3 }, (_, n) =>
        frame(`${i} ${n} ${'x'.repeat(Math.floor(dice() * 40))}`),
      );
      for (const raw of frames) one.tnc.take(data(raw));
      return frames.map(toHex);
    });
    const sound = together(stations, 20, seed);
    for (const { tnc, keys } of stations) {
      expect([tnc.isKeyed, tnc.waiting]).toEqual([false, 0]);
      expect(keys.filter(([, isDown]) => isDown)).toHaveLength(keys.length / 2);
    }
    const listener = new Demodulator(RATE_HZ, 'light').push(sound).map(({ raw }) => toHex(raw));
    const all = sent.flat();
    // Two that begin within the same 53 ms do not hear one another: p-persistence makes it seldom.
    expect(listener.filter((hex) => all.includes(hex)).length).toBeGreaterThanOrEqual(5);
    for (const [i, one] of stations.entries())
      expect(one.kiss.every((hex) => !(sent[i] ?? []).includes(hex))).toBe(true);
  });
});
