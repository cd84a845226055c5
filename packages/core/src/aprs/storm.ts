import { METRES_PER_NAUTICAL_MILE, MPS_PER_KNOT } from '../units/units.js';
import type { AprsReport, Storm } from './report.js';
import { digits } from './text.js';

/**
 * 1.0.1, "Storm data": behind course and speed `/TS` `/HC` `/TD`, then `/sss` sustained wind and `^ggg` gusts in knots,
 * `/pppp` central pressure in hPa, `>rrr` radius of hurricane winds, `&rrr` of storm winds, `%rrr` of whole gale, nautical miles.
 */
const KINDS: Record<string, Storm['kind']> = {
  TD: 'tropical-depression',
  TS: 'tropical-storm',
  HC: 'hurricane',
};
const FORM = /^\/(TD|TS|HC)\/(\d{3})\^(\d{3})\/(\d{4})>(\d{3})&(\d{3})(?:%(\d{3}))?/;

export function takeStorm(text: string, into: AprsReport): string {
  const match = text.startsWith('/') ? FORM.exec(text) : null;
  if (!match) return text;
  const figure = (i: number): number => Number(match[i]);
  into.storm = {
    kind: KINDS[match[1] as string] as Storm['kind'],
    sustainedWindMps: figure(2) * MPS_PER_KNOT,
    gustMps: figure(3) * MPS_PER_KNOT,
    pressureHpa: figure(4),
    hurricaneRadiusM: figure(5) * METRES_PER_NAUTICAL_MILE,
    stormRadiusM: figure(6) * METRES_PER_NAUTICAL_MILE,
    ...(match[7] === undefined ? {} : { galeRadiusM: figure(7) * METRES_PER_NAUTICAL_MILE }),
  };
  return text.slice(match[0].length);
}

export function encodeStorm(storm: Storm): string {
  const kind = Object.keys(KINDS).find((key) => KINDS[key] === storm.kind) ?? '';
  const knots = (mps: number): string => digits(mps / MPS_PER_KNOT, 3);
  const miles = (metres: number): string => digits(metres / METRES_PER_NAUTICAL_MILE, 3);
  const gale = storm.galeRadiusM === undefined ? '' : `%${miles(storm.galeRadiusM)}`;
  return (
    `/${kind}/${knots(storm.sustainedWindMps)}^${knots(storm.gustMps)}/${digits(storm.pressureHpa, 4)}` +
    `>${miles(storm.hurricaneRadiusM)}&${miles(storm.stormRadiusM)}${gale}`
  );
}
