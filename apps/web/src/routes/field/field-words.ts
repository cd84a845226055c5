import { NATURES, type Chemistry } from '@mistpeak/core/power/battery';
import { forecast, meanAmps, sunAmps, type Forecast, type Spread } from '@mistpeak/core/power/forecast';
import { lastKnown, ownRecord } from '@mistpeak/core/power/readings';
import type { ReadingView } from '@mistpeak/contract/field';
import { BUS_V, type Written } from './field-settings';

const HOUR_MS = 3_600_000;

export interface Outlook {
  readonly forecast: Forecast;
  /** When the charge was known that it begins with. */
  readonly fromMs: number;
  /** Of the plan alone, without the own record. */
  readonly planned: Forecast;
  readonly record: { readonly ratio: number; readonly hours: number } | undefined;
  readonly meanAmps: number;
  readonly sun: readonly number[];
}

/** From the last charge that is known, else from a full bank now. */
export function outlookOf(settings: Written, readings: readonly ReadingView[], nowMs: number): Outlook {
  const loads = settings.loads.map(({ name, amps, sharePercent }) => ({
    name,
    amps,
    share: sharePercent / 100,
  }));
  const mean = meanAmps(loads);
  const known = lastKnown(settings.bank, readings);
  const record = ownRecord(settings.bank, readings, mean);
  const fromMs = known?.atMs ?? nowMs;
  const began = new Date(fromMs);
  const sun = settings.panelW > 0 ? sunAmps(settings.panelW, BUS_V, settings.skyPercent / 100) : [];
  const plan = {
    bank: settings.bank,
    charge: known ?? { likely: 1, spread: 0 },
    loads,
    sunAmps: sun,
    hourOfDay: began.getHours() + began.getMinutes() / 60,
  };
  const planned = forecast({ ...plan, drawRatio: 1 });
  return {
    forecast: record ? forecast({ ...plan, drawRatio: record.ratio }) : planned,
    fromMs,
    planned,
    record,
    meanAmps: mean,
    sun,
  };
}

/** Hours from now, of hours from when it was known; undefined: it does not run down. */
export const leftOf = ({ fromMs }: Outlook, hours: number | undefined, nowMs: number): number | undefined =>
  hours === undefined ? undefined : Math.max(0, hours - (nowMs - fromMs) / HOUR_MS);

export const hoursInWords = (hours: number): string => {
  if (hours < 1) return `${Math.round(hours * 60)} min`;
  return hours < 10 ? `${hours.toFixed(1)} h` : `${Math.round(hours)} h`;
};

/** The answer of the page: how long, with its spread; and what the own record says against the plan. */
export function outlookInWords(outlook: Outlook, chemistry: Chemistry, nowMs: number): string {
  const { toFloor, toEmpty } = outlook.forecast;
  const left = leftOf(outlook, toFloor.likely, nowMs);
  if (left === undefined)
    return 'By this plan the sun gives more than is drawn: it does not run down in two weeks.';
  if (left === 0) {
    const toEmptyLeft = leftOf(outlook, toEmpty.likely, nowMs);
    return toEmptyLeft === 0
      ? 'By this plan it is empty by now.'
      : `It is below what should be taken from it, and empty in ${toEmptyLeft === undefined ? 'more than two weeks' : hoursInWords(toEmptyLeft)}.`;
  }
  const planned = leftOf(outlook, outlook.planned.toFloor.likely, nowMs);
  const record =
    outlook.record && planned !== undefined ? `; by the plan alone ${hoursInWords(planned)}` : '';
  const down = `down to ${Math.round(NATURES[chemistry].floor * 100)} % at ${(outlook.meanAmps * (outlook.record?.ratio ?? 1)).toFixed(1)} A`;
  return `It lasts ${hoursInWords(left)} more${spreadInWords(outlook, toFloor, nowMs)}, ${down}${outlook.record ? ', by your own record' : ''}${record}.`;
}

function spreadInWords(outlook: Outlook, { least, most }: Spread, nowMs: number): string {
  const [from, to] = [leftOf(outlook, least, nowMs), leftOf(outlook, most, nowMs)];
  if (from === undefined) return '';
  return ` (${hoursInWords(from)} to ${to === undefined ? 'more than two weeks' : hoursInWords(to)})`;
}
