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

  it.each([
    ['interval', 'everyMs', 15_000, 86_400_000],
    ['decaying', 'movingEveryMs', 15_000, 3_600_000],
    ['decaying', 'longestMs', 15_000, 86_400_000],
    ['distance', 'everyM', 20, 100_000],
    ['distance', 'longestMs', 15_000, 86_400_000],
    ['speed-and-turn', 'slowEveryMs', 15_000, 86_400_000],
    ['speed-and-turn', 'fastEveryMs', 15_000, 3_600_000],
    ['speed-and-turn', 'leastTurnDeg', 5, 180],
    ['speed-and-turn', 'turnSlope', 0, 5000],
    ['speed-and-turn', 'leastTurnGapMs', 15_000, 3_600_000],
    ['speed-and-turn', 'highSpeedMps', 2.3, 400],
    ['speed-and-turn', 'lowSpeedMps', 0, 26],
  ] as const)('%s: %s from %d to %d', (kind, figure, least, most) => {
    const refused = (value: number): boolean =>
      isMalformed(parsePlan({ ...USUAL_PLANS[kind], [figure]: value }));
    expect([refused(least), refused(most)]).toEqual([false, false]);
    expect([refused(least - 0.1), refused(most + 1)]).toEqual([true, true]);
  });

  it('of speeds that are no speeds is refused', () => {
    const slow = { ...USUAL_PLANS['speed-and-turn'], lowSpeedMps: 100, highSpeedMps: 100.1 };
    expect(isMalformed(parsePlan(slow))).toBe(false);
    expect(isMalformed(parsePlan({ ...slow, lowSpeedMps: 100.05 }))).toBe(true);
  });

  it('junk is safe', () => fc.assert(fc.property(fc.anything(), (value) => void parsePlan(value))));
});
