import { addOffset, addTone, clip, scale } from '../modem/generator/faults.js';
import { addNoise } from '../modem/generator/noise.js';
import { SpeechLike } from '../modem/generator/speech.js';
import { joined } from '../modem/generator/track.js';
import { seededDice } from '../network/dice.js';
import { Gathering, median } from './heard.js';
import { judgeReceive } from './receive-check.js';
import { hear, RATE_HZ, scene, type Scene } from './testing/scene.js';

const kinds = (one: Scene): string[] => judgeReceive(hear(scene(one))).findings.map(({ kind }) => kind);

it('each station is heard with its own level, twist and preamble, and each carrier is counted', () => {
  const heard = hear(scene({ packets: 5, twists: [2], levelDbfs: -20 }));
  expect(heard).toMatchObject({ carriers: 5, unread: 0, bells: 0, voiceShare: 0, quietShare: 0, tones: [] });
  expect(heard.seconds).toBeGreaterThan(5);
  expect(heard.noiseDbfs).toBeCloseTo(-45, 0);
  expect(heard.noiseTiltDb).toBeCloseTo(0, 0);
  for (const { twistDb, preambleMs, transmitter, clippedShare, peakDbfs } of heard.packets) {
    expect(twistDb).toBeCloseTo(2, 0);
    expect(Math.abs((preambleMs ?? 0) - 300)).toBeLessThan(14);
    expect(transmitter).toMatch(/^QH/);
    expect(clippedShare).toBe(0);
    expect(Math.abs(peakDbfs + 19)).toBeLessThan(1.5);
  }
});

it('no false alarm on good sound in forty seeds, with all that is allowed', () => {
  for (let seed = 1; seed <= 40; seed++) {
    const dice = seededDice(1000 + seed);
    const one: Scene = {
      seed,
      packets: 3,
      pauseMs: 300,
      levelDbfs: -27 + 16 * dice(),
      noiseDbfs: -55 + 12 * dice(),
      twists: [-1 + 2 * dice()],
      txDelayMs: 150 + 300 * dice(),
    };
    expect([seed, ...kinds(one)]).toEqual([seed]);
  }
});

describe('the fault that was put in is the one that is told', () => {
  it.each<[string, Scene]>([
    ['nothing', { levelDbfs: -120, noiseDbfs: -100 }],
    ['noise only', { levelDbfs: -120, noiseDbfs: -12 }],
    ['under', { levelDbfs: -31 }],
    ['over', { levelDbfs: -7 }],
    ['tones differ', { twists: [-5] }],
    ['tones differ', { twists: [5] }],
    ['tones differ', { twists: [-9] }],
    ['tones differ by sender', { twists: [0, -6] }],
    ['late', { preambleBits: 24 }],
    ['offset', { after: (sound) => addOffset(sound, -0.05) }],
    ['tone in the band', { after: (sound) => addTone(sound, RATE_HZ, 3300, 0.02) }],
    ['tone in the band', { after: (sound) => addTone(sound, RATE_HZ, 450, 0.02) }],
  ])('%s', (kind, one) => expect(kinds(one)).toEqual([kind]));

  it('hum, by two of its lines; a tone of 100 Hz alone is none', () => {
    const lines = (...hz: number[]): Scene => ({
      after: (sound) => hz.forEach((one) => addTone(sound, RATE_HZ, one, 0.03)),
    });
    expect(kinds(lines(50, 150))).toEqual(['hum']);
    expect(kinds(lines(60, 120))).toEqual(['hum']);
    expect(kinds(lines(100))).toEqual([]);
    expect(kinds(lines(50))).toEqual([]);
    expect(hear(scene(lines(60, 120)))).toMatchObject({ humHz: 60 });
    // arithmetic: two sines of 0.03 are 20 log 0.03 + 3 dB.
    expect(hear(scene(lines(50, 100))).humDbfs).toBeCloseTo(-27.4, 0);
  });

  it('clipping, before all else', () => {
    const overdriven = (sound: Float32Array): void => {
      scale(sound, 10);
      clip(sound, 1);
    };
    expect(kinds({ after: overdriven })[0]).toBe('clipping');
  });

  it('a keying tone that leaks is there only with the packets', () => {
    const heard = hear(
      scene({
        packets: 6,
        after: (sound) => {
          const tone = new Float32Array(sound.length);
          addTone(tone, RATE_HZ, 3500, 0.03);
          // The packets are where it is loud.
          for (let i = 0; i < sound.length; i += 220) {
            const part = sound.subarray(i, i + 220);
            if (part.some((sample) => Math.abs(sample) > 0.1))
              part.forEach((sample, j) => (part[j] = sample + (tone[i + j] as number)));
          }
        },
      }),
    );
    expect(heard.tones).toHaveLength(1);
    expect(heard.tones[0]).toMatchObject({ when: 'with packets' });
    expect(Math.abs((heard.tones[0]?.hz ?? 0) - 3500)).toBeLessThan(25);
    // arithmetic: 20 log 0.03; between two lines it loses up to 1.4 dB.
    expect(Math.abs((heard.tones[0]?.dbfs ?? 0) + 30.5)).toBeLessThan(1.6);
  });

  it('voices are no lost packets', () => {
    const speech = new SpeechLike(RATE_HZ, seededDice(5)).next(RATE_HZ * 10);
    const { findings } = judgeReceive(hear(joined([scene({ packets: 6 }), speech])));
    expect(findings.map(({ kind }) => kind)).toEqual(['other sounds']);
  });

  it('bells are short and pure', () => {
    const bell = (ms: number): Float32Array => {
      const sound = new Float32Array((RATE_HZ * ms) / 1000);
      addTone(sound, RATE_HZ, 1760, 0.1);
      return sound;
    };
    const pause = new Float32Array(RATE_HZ);
    const noisy = (sound: Float32Array): Float32Array => {
      addNoise(sound, 0.002, seededDice(3));
      return sound;
    };
    expect(hear(noisy(joined([pause, bell(300), pause, bell(600), pause]))).bells).toBe(2);
    expect(hear(noisy(joined([pause, bell(90), pause]))).bells).toBe(0);
    expect(hear(noisy(joined([pause, bell(4000), pause]))).bells).toBe(0);
  });

  it('a carrier that nobody could read is counted', () => {
    const sound = scene({ packets: 8 });
    // A second station on top of every other frame, after its preamble.
    const other = scene({ packets: 8, seed: 9, noiseDbfs: -100 });
    const half = sound.length / 2;
    for (let i = 0; i < half; i++) sound[i] = (sound[i] as number) + (other[i + RATE_HZ / 5] ?? 0);
    const { carriers, unread, packets } = hear(sound);
    expect(packets.length).toBeLessThan(8);
    expect(unread).toBeGreaterThan(1);
    expect(carriers - unread).toBeGreaterThan(2);
  });

  it('narrow audio shows in its noise', () => {
    const smooth = (sound: Float32Array): void => {
      // Three one-pole low-passes of 700 Hz.
      const by = 1 - Math.exp((-2 * Math.PI * 700) / RATE_HZ);
      for (let pass = 0; pass < 4; pass++) {
        let last = 0;
        sound.forEach((sample, i) => (sound[i] = last += by * (sample - last)));
      }
    };
    const sound = scene({ levelDbfs: -120, noiseDbfs: -8, packets: 4 });
    smooth(sound);
    expect(judgeReceive(hear(sound)).findings.map(({ kind }) => kind)).toContain('narrow');
  });
});

it('only a stretch of tones as long as the shortest packet is a carrier', () => {
  const carriers = (stretches: number): number => {
    const gathering = new Gathering({ binHz: 20, lines: 200 });
    const stretch = (i: number) => ({
      atMs: 50 * (i + 1),
      rmsDbfs: -20,
      peakDbfs: -15,
      offset: 0,
      clippedShare: 0,
      spectrum: new Uint8Array(200).fill(50),
      ...(i >= 4 && i < 4 + stretches ? { busy: 'data' as const } : {}),
    });
    gathering.take({ stretches: Array.from({ length: 40 }, (_, i) => stretch(i)), packets: [], hum: [] });
    return gathering.heard.carriers;
  };
  expect([0, 1, 2, 3, 4].map(carriers)).toEqual([0, 0, 0, 1, 1]);
});

it('a packet is clipped by what is within it, not by what was before it', () => {
  const loud = new Float32Array(RATE_HZ).fill(1);
  const { packets } = hear(joined([loud, scene({ packets: 1 })]));
  expect(packets).toHaveLength(1);
  expect(packets[0]?.clippedShare).toBe(0);
  expect(packets[0]?.peakDbfs).toBeLessThan(-10);
});

it('the median of an even number lies between the two in the middle', () => {
  expect(median([3, 1])).toBe(2);
  expect(median([5, 1, 3])).toBe(3);
  expect(median([])).toBeUndefined();
});
