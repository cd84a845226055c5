import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { parsePlan } from './plan-file.js';
import { USUAL_PLANS } from './plan.js';

describe('a plan from outside', () => {
  it.each(Object.values(USUAL_PLANS))('%o is taken as it is', (plan) =>
    expect(parsePlan({ ...plan, more: 1 })).toEqual(plan),
  );

  it.each([
    [{ ...USUAL_PLANS.interval, everyMs: 14_999 }, /15 s/],
    [{ ...USUAL_PLANS.interval, everyMs: 86_400_001 }, /a day/],
    [{ ...USUAL_PLANS.interval, everyMs: '60000' }, /15 s/],
    [{ ...USUAL_PLANS['speed-and-turn'], highSpeedMps: 1 }, /above the low/],
    [{ ...USUAL_PLANS['speed-and-turn'], turnSlope: NaN }, /slope/],
    [{ kind: 'never' }, /choose/],
    [{ kind: 'toString' }, /choose/],
    [null, /choose/],
    [3, /choose/],
  ])('%j is refused', (value, why) => {
    const plan = parsePlan(value);
    expect(isMalformed(plan) ? plan.malformed : '').toMatch(why);
  });

  it('junk is safe', () => fc.assert(fc.property(fc.anything(), (value) => void parsePlan(value))));
});
