import { runMailTrial } from './trial.js';

/** MISTPEAK_TRIAL=n replays one seed. */
const only = process.env.MISTPEAK_TRIAL;
const seeds = only === undefined ? Array.from({ length: 300 }, (_, i) => i + 1) : [Number(only)];

describe('two ends of mail over a pipe that breaks, with processes that end', () => {
  const findings = new Map(seeds.map((seed) => [seed, runMailTrial(seed)]));
  const sum = (of: 'delivered' | 'broken' | 'crashes' | 'resumed'): number =>
    [...findings.values()].reduce((all, one) => all + one[of], 0);

  it('nothing is lost, doubled, changed, or confirmed before it is kept', () => {
    const bad = [...findings].filter(([, { faults }]) => faults.length > 0);
    expect(
      bad.slice(0, 5).map(([seed, { faults }]) => `MISTPEAK_TRIAL=${seed}: ${faults.slice(0, 3).join('; ')}`),
    ).toEqual([]);
  });

  it('though much went wrong', () => {
    expect(sum('delivered')).toBeGreaterThan(seeds.length * 5);
    expect(sum('broken')).toBeGreaterThan(seeds.length / 2);
    expect(sum('crashes')).toBeGreaterThan(seeds.length / 4);
    expect(sum('resumed')).toBeGreaterThan(seeds.length / 10);
  });

  it('the same seed is the same trial', () => expect(runMailTrial(7)).toEqual(runMailTrial(7)));
});
