import type { FaultId } from '../faults/faults.js';
import type { Area, Difference } from '../logbook/moment.js';

/** Which faults a change of that kind may have brought (common practice, no source). */
const BROUGHT_BY: Readonly<Record<Area, readonly FaultId[]>> = {
  channel: ['wrong-band', 'radio-control'],
  switch: [],
  sheet: ['kiss-off', 'wrong-band', 'squelch', 'wrong-port', 'path', 'vox-slow', 'vox-hang'],
  level: ['plug', 'deaf', 'over-deviated'],
  link: ['wrong-port', 'held'],
  part: ['plug', 'vox-slow', 'over-deviated', 'held', 'keying-tone'],
  firmware: ['kiss-off', 'radio-control'],
  identity: ['ssid', 'mistyped', 'corrected'],
  place: ['gateway-silent'],
  beacon: ['path'],
};

/** A switch, or a line of a sheet, tells by its name. */
const BY_NAME: readonly (readonly [RegExp, readonly FaultId[]])[] = [
  [/squelch/i, ['squelch']],
  [/\bVOX\b/i, ['vox-slow', 'vox-hang']],
  [/\bKISS\b|TNC|packet mode/i, ['kiss-off']],
  [/band|frequency|channel/i, ['wrong-band', 'radio-control']],
  [/volume|audio|mute|level|gain/i, ['deaf', 'plug', 'over-deviated']],
  [/\bport\b|host/i, ['wrong-port']],
  [/path/i, ['path']],
  [/tone/i, ['keying-tone']],
  [/power|volt|battery/i, ['battery']],
];

export function broughtBy({ area, name }: Pick<Difference, 'area' | 'name'>): readonly FaultId[] {
  return BY_NAME.find(([words]) => words.test(name))?.[1] ?? BROUGHT_BY[area];
}

/** What speaks for a fault because something that brings it has changed since it worked: 1 and the suspicion of the most suspect. */
export function factorsOf(changed: readonly Difference[]): Readonly<Partial<Record<FaultId, number>>> {
  const factors: Partial<Record<FaultId, number>> = {};
  for (const difference of changed)
    for (const fault of broughtBy(difference))
      factors[fault] = Math.max(factors[fault] ?? 1, 1 + difference.suspicion);
  return factors;
}
