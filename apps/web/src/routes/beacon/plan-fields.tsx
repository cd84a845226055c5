import { USUAL_PLANS, type BeaconPlan } from '@mistpeak/core/beacon/plan';
import { MPS_PER_KNOT, MPS_PER_MPH } from '@mistpeak/core/units/units';
import type { OperatorView } from '@mistpeak/contract/operator';
import { NumberField, SelectField } from '../../pieces/field';
import { PLAN_NAMES } from './plan-words';

const SPEEDS = {
  metric: { name: 'km/h', mps: 1 / 3.6 },
  imperial: { name: 'mph', mps: MPS_PER_MPH },
  nautical: { name: 'kn', mps: MPS_PER_KNOT },
} as const;

/** A kind of plan and its figures. */
export function PlanFields({
  plan,
  units,
  set,
}: {
  plan: BeaconPlan;
  units: OperatorView['units'];
  set: (plan: BeaconPlan) => void;
}) {
  const speed = SPEEDS[units];
  const field = (label: string, key: string, unit: number, hint?: string) => (
    <NumberField
      key={key}
      label={label}
      {...(hint === undefined ? {} : { hint })}
      value={Number((((plan as unknown as Record<string, number>)[key] as number) / unit).toFixed(2))}
      set={(value) => set({ ...plan, [key]: (value ?? NaN) * unit })}
    />
  );
  return (
    <div className="flex flex-col gap-3">
      <SelectField
        label="Plan"
        value={plan.kind}
        onChange={({ target }) => set(USUAL_PLANS[target.value as BeaconPlan['kind']])}
      >
        {Object.entries(PLAN_NAMES).map(([kind, name]) => (
          <option key={kind} value={kind}>
            {name}
          </option>
        ))}
      </SelectField>
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        {plan.kind === 'interval' && field('Every, min', 'everyMs', 60_000)}
        {plan.kind === 'decaying' && [
          field('On the move, every min', 'movingEveryMs', 60_000),
          field('Longest, min', 'longestMs', 60_000),
        ]}
        {plan.kind === 'distance' && [
          field('Every, m', 'everyM', 1),
          field('Longest, min', 'longestMs', 60_000),
        ]}
        {plan.kind === 'speed-and-turn' && [
          field('Fast, every min', 'fastEveryMs', 60_000),
          field(`from ${speed.name}`, 'highSpeedMps', speed.mps),
          field('Slow, every min', 'slowEveryMs', 60_000),
          field(`below ${speed.name}`, 'lowSpeedMps', speed.mps),
          field('Least turn, °', 'leastTurnDeg', 1),
          field('Turn slope', 'turnSlope', 1, 'degree · mph; 255 is usual, some sets show tens'),
          field('Between turns, s', 'leastTurnGapMs', 1000),
        ]}
      </div>
    </div>
  );
}
