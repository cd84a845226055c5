import { chargeByCount, chargeByVoltage, type Bank, type ChargeReading } from './battery.js';
import { drawRatioOf, type ChargePoint } from './forecast.js';

/** How a charge was found out. */
export const READING_KINDS = ['rested', 'counted', 'full', 'empty'] as const;
export type ReadingKind = (typeof READING_KINDS)[number];

/** rested: volts, restedHours since something was drawn or charged; counted: takenAh since it was full. */
export interface BatteryReading {
  readonly kind: ReadingKind;
  readonly volts?: number | undefined;
  readonly restedHours?: number | undefined;
  readonly takenAh?: number | undefined;
  /** Something charged it since the reading before. */
  readonly wasCharged: boolean;
}

export interface TimedReading extends BatteryReading {
  readonly atMs: number;
}

/** What one reading tells of the charge. A charger that says full, and a set that gave up, are trusted like a voltage. */
export function readingOf(bank: Bank, { kind, volts, restedHours, takenAh }: BatteryReading): ChargeReading {
  if (kind === 'rested') return chargeByVoltage(bank, volts ?? NaN, restedHours ?? 0);
  if (kind === 'counted') return chargeByCount(bank, takenAh ?? NaN);
  return kind === 'full'
    ? { kind: 'charge', charge: 1, spread: 0.03 }
    : { kind: 'charge', charge: 0, spread: 0.05 };
}

export interface KnownCharge {
  readonly atMs: number;
  readonly likely: number;
  readonly spread: number;
}

/** The last reading that told a charge. readings: oldest first. */
export function lastKnown(bank: Bank, readings: readonly TimedReading[]): KnownCharge | undefined {
  for (const reading of [...readings].reverse()) {
    const told = readingOf(bank, reading);
    if (told.kind === 'charge') return { atMs: reading.atMs, likely: told.charge, spread: told.spread };
  }
  return undefined;
}

/** The own record: what was drawn of what was planned, between readings that told a charge. */
export function ownRecord(
  bank: Bank,
  readings: readonly TimedReading[],
  plannedAmps: number,
): { readonly ratio: number; readonly hours: number } | undefined {
  const points: ChargePoint[] = [];
  // A reading that told nothing may have come with a charge: it counts for the next one that did.
  let wasCharged = false;
  for (const reading of readings) {
    wasCharged ||= reading.wasCharged;
    const told = readingOf(bank, reading);
    if (told.kind !== 'charge') continue;
    points.push({ atMs: reading.atMs, charge: told.charge, wasCharged });
    wasCharged = false;
  }
  return drawRatioOf(bank, points, plannedAmps);
}
