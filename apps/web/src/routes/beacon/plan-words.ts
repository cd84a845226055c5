import type { BeaconPlan } from '@mistpeak/core/beacon/plan';
import { formatSpeed, type UnitSystem } from '@mistpeak/core/units/units';

export const PLAN_NAMES: Readonly<Record<BeaconPlan['kind'], string>> = {
  interval: 'fixed interval',
  'speed-and-turn': 'by speed and turn',
  decaying: 'decaying after a stop',
  distance: 'by distance',
  once: 'once',
};

export function formatEvery(ms: number): string {
  const seconds = Math.round(ms / 1000);
  if (seconds < 120) return `${seconds} s`;
  const minutes = seconds / 60;
  return minutes < 120 ? `${Number(minutes.toFixed(1))} min` : `${Number((minutes / 60).toFixed(1))} h`;
}

/** A plan in words, its figures in it. */
export function planWords(plan: BeaconPlan, units: UnitSystem): string {
  switch (plan.kind) {
    case 'interval':
      return `every ${formatEvery(plan.everyMs)}`;
    case 'once':
      return 'once';
    case 'distance':
      return `every ${plan.everyM} m, at the latest every ${formatEvery(plan.longestMs)}`;
    case 'decaying':
      return `every ${formatEvery(plan.movingEveryMs)} on the move; at a stop twice as long each time, to ${formatEvery(plan.longestMs)}`;
    case 'speed-and-turn':
      return `every ${formatEvery(plan.fastEveryMs)} from ${formatSpeed(plan.highSpeedMps, units)}, every ${formatEvery(plan.slowEveryMs)} below ${formatSpeed(plan.lowSpeedMps, units)}; at turns over ${plan.leastTurnDeg}° and ${plan.turnSlope} degree·mph`;
  }
}
