import {
  besselWords,
  deviationAt,
  judgeTransmit,
  nullToneHz,
  stepOf,
  type TransmitStep,
} from './transmit-check.js';
import { judgeKeyingTone } from './keying-tone.js';
import type { HeardPacket } from './sound-watch.js';

const step = (sentDbfs: number, more: Partial<TransmitStep> = {}): TransmitStep => ({
  sentDbfs,
  sent: 3,
  decoded: 3,
  noticed: 3,
  ...more,
});
const SILENT = { decoded: 0, noticed: 0 };
const BROKEN = { decoded: 1, noticed: 3 };
const LINE = { isVox: false };
const states = (steps: TransmitStep[], how: Parameters<typeof judgeTransmit>[1] = LINE): string[] =>
  judgeTransmit(steps, how).steps.map(({ state }) => state);

describe('the transmit check', () => {
  it('advises the step that sounds most like the others', () => {
    const steps = [-30, -24, -18, -12].map((sentDbfs) => step(sentDbfs, { heardDbfs: sentDbfs + 2 }));
    const verdict = judgeTransmit(steps, { ...LINE, othersDbfs: -17 });
    expect(verdict.adviseDbfs).toBe(-18);
    expect(verdict.words).toBe('Send at −18 dBFS.');
    expect(verdict.turn).toContain('Nearest to how others sound');
    expect(verdict.steps.map(({ state }) => state)).toEqual(['quiet', 'quiet', 'clean', 'clean']);
  });

  it('without others the lowest step that was read whole', () => {
    expect(judgeTransmit([step(-12), step(-24, BROKEN), step(-18)], LINE).adviseDbfs).toBe(-18);
  });

  it('quiet begins 4 dB below the others', () => {
    const at = (heardDbfs: number): string[] =>
      states([step(-20, { heardDbfs })], { ...LINE, othersDbfs: -16 });
    expect(at(-20)).toEqual(['clean']);
    expect(at(-20.01)).toEqual(['quiet']);
  });

  it('a transmitter that limits is noticed where the level grows no more', () => {
    const grown = (by: number): string[] =>
      states([step(-20, { heardDbfs: -16 }), step(-10, { heardDbfs: -16 + by })]);
    expect(grown(4)).toEqual(['clean', 'clean']);
    expect(grown(3.9)).toEqual(['clean', 'limited']);
    expect(
      states([step(-20, { heardDbfs: -16 }), step(-10, { heardDbfs: -15 })], { ...LINE, othersDbfs: -14 }),
    ).toEqual(['clean', 'clean']);
    expect(states([step(-20, { heardDbfs: -16, clippedShare: 0.006 })])).toEqual(['limited']);
    expect(states([step(-20, { heardDbfs: -16, clippedShare: 0.005 })])).toEqual(['clean']);
  });

  it('VOX: three decibels above where the radio lets go, and never beyond full scale', () => {
    const verdict = judgeTransmit([step(-12), step(-18), step(-24, BROKEN), step(-30, SILENT)], {
      isVox: true,
    });
    expect(verdict.adviseDbfs).toBe(-15);
    expect(verdict.turn).toContain('3 dB above where the radio lets go');
    expect(states([step(-12), step(-24, BROKEN), step(-30, SILENT)], { isVox: true })).toEqual([
      'not keyed',
      'broken',
      'clean',
    ]);
    expect(judgeTransmit([step(-1)], { isVox: true }).adviseDbfs).toBe(0);
    expect(judgeTransmit([step(-18), step(-12)], LINE).adviseDbfs).toBe(-18);
  });

  it('says what is wrong when no step will do', () => {
    expect(judgeTransmit([step(-12, SILENT)], LINE).words).toBe('The radio does not key.');
    expect(judgeTransmit([step(-12, BROKEN)], LINE).words).toContain('no step was read whole');
    const quiet = judgeTransmit([step(-6, { heardDbfs: -22 })], { ...LINE, othersDbfs: -16 });
    expect(quiet.words).toContain('Keyed but quiet');
    expect(quiet.adviseDbfs).toBeUndefined();
    expect(judgeTransmit([step(-6, { heardDbfs: -2, clippedShare: 0.1 })], LINE).words).toContain(
      'Too loud already',
    );
  });

  it('own packets are picked out of all', () => {
    const packet = (transmitter: string, levelDbfs: number) =>
      ({ transmitter, levelDbfs, clippedShare: 0.1 }) as HeardPacket;
    const heard = {
      packets: [packet('QH4MPK-7', -20), packet('QH7CTB-9', -5), packet('QH4MPK-7', -22)],
      carriers: 4,
    };
    expect(stepOf(heard, { call: 'QH4MPK-7', sent: 3, sentDbfs: -12 })).toEqual({
      sentDbfs: -12,
      sent: 3,
      decoded: 2,
      noticed: 4,
      heardDbfs: -21,
      clippedShare: 0.1,
    });
    expect(stepOf({ packets: [], carriers: 0 }, { call: 'QH4MPK-7', sent: 3, sentDbfs: -12 })).toEqual({
      sentDbfs: -12,
      sent: 3,
      decoded: 0,
      noticed: 0,
    });
  });
});

/** First zero of J0 at 2.405 (published tables). */
describe('deviation by the vanishing carrier', () => {
  it('tones for the usual aims', () => {
    expect([2000, 2500, 3000, 3500].map((hz) => Math.round(nullToneHz(hz)))).toEqual([832, 1040, 1247, 1455]);
  });

  it('a flat input keeps the deviation, a pre-emphasised one the index', () => {
    expect(deviationAt(2200, 1200, false)).toBeCloseTo(2886, 0);
    expect(deviationAt(2200, 1200, true)).toBeCloseTo(5291, 0);
  });

  it('is told for each width of channel and each input', () => {
    expect(besselWords('wide', false)).toContain('1247 to 1455 Hz');
    expect(besselWords('narrow', false)).toContain('832 to 1040 Hz');
    expect(besselWords('wide', true)).toContain('2200 Hz at 5.29 kHz, over the limit');
    // arithmetic: 20 log (2200 / 1247).
    expect(besselWords('wide', true)).toContain('4.9 dB');
    expect(besselWords('wide', false)).not.toContain('pre-emphasised');
  });
});

describe('the keying tone', () => {
  const packets = [{}] as HeardPacket[];
  const tone = { hz: 3000, dbfs: -40, when: 'with packets' } as const;

  it('that leaks is named, with its level under the data', () => {
    const verdict = judgeKeyingTone({ packets, tones: [{ ...tone, hz: 500, dbfs: -60 }, tone] }, -16);
    expect(verdict).toMatchObject({
      isHeard: true,
      words: 'Your keying tone is heard: 3000 Hz beside your packets.',
      number: '−40 dBFS, 24 dB below the data',
    });
  });

  it('is not blamed for a whistle that is always there, nor cleared without a packet', () => {
    expect(judgeKeyingTone({ packets, tones: [{ ...tone, when: 'always' }] }, -16)).toMatchObject({
      isHeard: false,
      words: 'The keying tone is not heard.',
    });
    expect(judgeKeyingTone({ packets: [], tones: [tone] }, undefined).words).toContain('nothing can be said');
    expect(judgeKeyingTone({ packets, tones: [tone] }, undefined).number).toBe('−40 dBFS');
  });
});
