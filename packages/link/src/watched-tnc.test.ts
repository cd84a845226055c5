import { encodeKiss } from '@mistpeak/core/kiss/codec';
import { inventedFrames, transmission } from '@mistpeak/core/modem/generator/track';
import { BELL_202, HF_300, SCRAMBLED_9600 } from '@mistpeak/core/modem/tones';
import { seededDice } from '@mistpeak/core/network/dice';
import { stereo, tncSettings } from './sound-setup.js';
import { WatchedTnc } from './watched-tnc.js';

const RATE_HZ = 11_025;
const SETUP = { decoder: 'light', levelDbfs: -12, twistDb: 1, keying: 'none' } as const;
const [FRAME] = inventedFrames(1, seededDice(1), { from: 20, to: 20 }) as [Uint8Array];
const watched = (): WatchedTnc =>
  new WatchedTnc(tncSettings(SETUP, RATE_HZ, 1200), {
    octets: () => undefined,
    key: () => undefined,
    dice: () => 0,
  });

describe('a watched sound card', () => {
  it('reports what it heard since it was last asked, with its own time', () => {
    const tnc = watched();
    tnc.run(transmission([FRAME], { rateHz: RATE_HZ, pauseMs: 500 }));
    const { news, heardMs, passedMs, lost, shape } = tnc.report();
    expect(news.packets.map(({ raw }) => [...raw])).toEqual([[...FRAME]]);
    expect(news.stretches.length).toBe(Math.floor(heardMs / 50));
    expect(news.stretches[0]?.spectrum).toHaveLength(shape.lines);
    expect([passedMs, lost]).toEqual([heardMs, 0]);
    expect(tnc.report().news).toEqual({ stretches: [], packets: [], hum: [] });
  });

  it('counts on while it sends and hears nothing, and counts what it could not send', () => {
    const tnc = watched();
    tnc.take(encodeKiss({ port: 0, command: 'data', payload: FRAME }));
    for (let i = 0; i < 50; i++) tnc.run(new Float32Array(RATE_HZ / 25));
    const { heardMs, passedMs } = tnc.report();
    expect(passedMs).toBeCloseTo(2000, 6);
    expect(heardMs).toBeLessThan(passedMs - 300);
    // The first is on the air at once, the second waits for its end.
    for (let i = 0; i < 2; i++) tnc.take(encodeKiss({ port: 0, command: 'data', payload: FRAME }));
    tnc.silence();
    expect(tnc.report().lost).toBe(1);
  });
});

describe('the modem of a set-up', () => {
  it('has the tones of its rate on the air, and a keying tone only where it keys by one', () => {
    expect([300, 1200, 9600].map((baud) => tncSettings(SETUP, 48_000, baud).modulation)).toEqual([
      HF_300,
      BELL_202,
      SCRAMBLED_9600,
    ]);
    expect(() => tncSettings(SETUP, 48_000, 2400)).toThrow(RangeError);
    expect(tncSettings({ ...SETUP, toneHz: 15_000 }, 48_000, 1200)).not.toHaveProperty('keyingTone');
    expect(tncSettings({ ...SETUP, keying: 'tone', toneHz: 15_000 }, 48_000, 1200).keyingTone).toEqual({
      hz: 15_000,
      levelDbfs: -12,
    });
    expect(tncSettings({ ...SETUP, soundAboveDbfs: -30 }, 48_000, 1200).soundAboveDbfs).toBe(-30);
  });

  it('data has its channel, the tone the other', () => {
    expect((['left', 'right', 'both'] as const).map((on) => stereo(on, 'data', 'tone'))).toEqual([
      ['data', 'tone'],
      ['tone', 'data'],
      ['data', 'data'],
    ]);
  });
});
