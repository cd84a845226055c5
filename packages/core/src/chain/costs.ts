import type { Joint, Level, Stone } from './chain.js';

/** What the planner weighs against one another: 10 is one joint more (our judgement; it orders, it measures nothing). */
export const COSTS = {
  joint: 10,
  missing: 400,
  levels: { breaks: 1000, switch: 20, risk: 15 } satisfies Record<Level, number>,
  keying: { VOX: 12, 'steady tone': 12, 'by hand': 40 } as Readonly<Record<string, number>>,
  wireless: 2,
  perAmpere: 10,
} as const;

/** Weight of the joints with all that the rules say of them. */
export function costOfJoints(joints: readonly Joint[]): number {
  return joints.reduce(
    (sum, { name, findings }) =>
      sum +
      COSTS.joint +
      (/^Bluetooth|network/.test(name) ? COSTS.wireless : 0) +
      findings.reduce((weight, { level }) => weight + COSTS.levels[level], 0),
    0,
  );
}

/** Weight of what the parts draw from the battery. */
export function costOfPower(stones: readonly Stone[]): number {
  const milliamps = stones.reduce((sum, { item }) => sum + (item.drawMilliamps ?? 0), 0);
  return Math.round((milliamps / 1000) * COSTS.perAmpere);
}
