import { NATURES, type Bank } from './battery.js';

/** Something that draws: share of the time, 0–1, in which it does. */
export interface Load {
  readonly name: string;
  readonly amps: number;
  readonly share: number;
}

/** least ≤ likely ≤ most. undefined: it does not run down within the days that are reckoned. */
export interface Spread {
  readonly least: number | undefined;
  readonly likely: number | undefined;
  readonly most: number | undefined;
}

export interface Forecast {
  /** Hours until the charge below which this kind should not be taken. */
  readonly toFloor: Spread;
  readonly toEmpty: Spread;
  /** Charge at each full hour from now on, 0–1, up to empty or the last hour that is reckoned; of the likely case. */
  readonly line: readonly number[];
}

export interface Plan {
  readonly bank: Bank;
  /** Now, 0–1. */
  readonly charge: { readonly likely: number; readonly spread: number };
  readonly loads: readonly Load[];
  /** What the sun gives by the hour of the day, A; 24 numbers, or none. */
  readonly sunAmps: readonly number[];
  /** Hour of the day now, with its part: 13.5. */
  readonly hourOfDay: number;
  /** What is drawn in truth, of what was planned: by the own record. */
  readonly drawRatio: number;
}

/** So long is reckoned. */
export const MOST_HOURS = 14 * 24;
const STEP_H = 0.25;
/** The load of a plan is known to so much. */
const LOAD_SPREAD = 0.12;

export const meanAmps = (loads: readonly Load[]): number =>
  loads.reduce((sum, { amps, share }) => sum + amps * share, 0);

/**
 * A current above the rated one of twenty hours takes more out of lead than its ampere-hours: I·(I/I20)^(k − 1) (Peukert, 1897).
 * One below takes no less: what a maker promises is not promised further.
 */
export function drawnAmps({ chemistry, ampHours }: Bank, amps: number): number {
  const rated = ampHours / 20;
  return amps * Math.max(1, amps / rated) ** (NATURES[chemistry].peukert - 1);
}

/** Hours left, with their spread: charge and load each at their ends. */
export function forecast(plan: Plan): Forecast {
  const { likely, spread } = plan.charge;
  const at = (charge: number, load: number, below: number): number | undefined =>
    runDown(plan, charge, load, below).hours;
  const { floor } = NATURES[plan.bank.chemistry];
  const spreadTo = (below: number): Spread => ({
    least: at(likely - spread, 1 + LOAD_SPREAD, below),
    likely: at(likely, 1, below),
    most: at(likely + spread, 1 - LOAD_SPREAD, below),
  });
  return { toFloor: spreadTo(floor), toEmpty: spreadTo(0), line: runDown(plan, likely, 1, 0).line };
}

function runDown(
  { bank, loads, sunAmps, hourOfDay, drawRatio }: Plan,
  charge: number,
  load: number,
  below: number,
): { hours: number | undefined; line: readonly number[] } {
  const { chargeEfficiency } = NATURES[bank.chemistry];
  const draw = meanAmps(loads) * load * drawRatio;
  let left = Math.max(0, Math.min(1, charge));
  const line = [left];
  if (left <= below) return { hours: 0, line };
  for (let step = 0; step < MOST_HOURS / STEP_H; step++) {
    const sun = sunAmps[Math.floor(hourOfDay + step * STEP_H) % 24] ?? 0;
    const net = sun - draw;
    const change =
      net > 0 ? (net * chargeEfficiency) / bank.ampHours : -drawnAmps(bank, -net) / bank.ampHours;
    const next = Math.min(1, left + change * STEP_H);
    // Within the step, not at its end: a small battery is empty in minutes.
    if (next <= below) {
      const hours = (step + (left - below) / (left - next)) * STEP_H;
      return { hours, line: below === 0 ? [...line, 0] : line };
    }
    left = next;
    if ((step + 1) % (1 / STEP_H) === 0) line.push(left);
  }
  return { hours: undefined, line };
}

/** A charge that was known at some time, and whether anything had charged since the one before. */
export interface ChargePoint {
  readonly atMs: number;
  readonly charge: number;
  readonly wasCharged: boolean;
}

/** Shorter stretches and smaller steps than these tell nothing about the draw. */
const LEAST_STRETCH_MS = 3_600_000;
const LEAST_STEP = 0.05;

/**
 * What was drawn in truth of what was planned, by pairs of readings with no charging between; undefined: the record does not tell
 * yet. plannedAmps: the mean current of the plan. points: oldest first.
 */
export function drawRatioOf(
  { ampHours }: Pick<Bank, 'ampHours'>,
  points: readonly ChargePoint[],
  plannedAmps: number,
): { readonly ratio: number; readonly hours: number } | undefined {
  let [takenAh, hours] = [0, 0];
  points.forEach((point, i) => {
    const before = points[i - 1];
    if (!before || point.wasCharged) return;
    const step = before.charge - point.charge;
    const ms = point.atMs - before.atMs;
    if (ms < LEAST_STRETCH_MS || step < LEAST_STEP) return;
    takenAh += step * ampHours;
    hours += ms / 3_600_000;
  });
  return hours === 0 || plannedAmps <= 0 ? undefined : { ratio: takenAh / hours / plannedAmps, hours };
}

/** Share of a panel's rated current that comes at each hour of a clear day in the middle of the year's light (common practice: four to five full hours a day). */
const SUN_BY_HOUR = [
  0, 0, 0, 0, 0, 0, 0.03, 0.1, 0.25, 0.4, 0.52, 0.6, 0.62, 0.6, 0.52, 0.4, 0.25, 0.1, 0.03,
];

/** Amperes by the hour of the day that a panel of so many watts gives into a bank of so many volts. sky: 1 clear, 0.2 overcast. */
export function sunAmps(watts: number, volts: number, sky: number): number[] {
  return Array.from({ length: 24 }, (_, hour) => ((SUN_BY_HOUR[hour] ?? 0) * watts * sky) / volts);
}
