import { runTrial } from './trial.js';

/** MISTPEAK_TRIAL=n replays one seed. */
const only = process.env.MISTPEAK_TRIAL;
const seeds = only === undefined ? Array.from({ length: 1000 }, (_, i) => i + 1) : [Number(only)];

describe('two books over a bad channel, with crashes between any two steps', () => {
  const findings = new Map(seeds.map((seed) => [seed, runTrial(seed)]));
  const sum = (of: 'acknowledged' | 'crashes' | 'resent'): number =>
    [...findings.values()].reduce((all, one) => all + one[of], 0);

  it('every message comes to an end, is shown once, goes out no more often than planned; none is acknowledged that was not for us', () => {
    const bad = [...findings].filter(([, { faults }]) => faults.length > 0);
    expect(
      bad.slice(0, 5).map(([seed, { faults }]) => `MISTPEAK_TRIAL=${seed}: ${faults.slice(0, 3).join('; ')}`),
    ).toEqual([]);
  });

  it('most are acknowledged, though many are sent again and many processes end', () => {
    expect(sum('acknowledged')).toBeGreaterThan(seeds.length * 8 * 0.5);
    expect(sum('resent')).toBeGreaterThan(seeds.length);
    expect(sum('crashes')).toBeGreaterThan(seeds.length);
  });

  it('the same seed is the same trial', () => expect(runTrial(7)).toEqual(runTrial(7)));
});
