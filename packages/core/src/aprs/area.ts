import { METRES_PER_MILE } from '../units/units.js';
import type { AprsReport, Area } from './report.js';
import { digits } from './text.js';

/**
 * 1.0.1, "Area objects": `Tyy/Cxx` in place of an extension, with the symbol `\l`: type, root of the latitude offset,
 * colour, root of the longitude offset; an offset is the square of its figure in 1/1500 degree (from memory).
 */
const SHAPES: readonly Area['shape'][] = ['circle', 'line-right', 'ellipse', 'triangle', 'box'];
const FILLED_FROM = 5;
const LEFT_LINE = 6;
const COLOURS: readonly Area['colour'][] = [
  'black',
  'blue',
  'green',
  'cyan',
  'red',
  'violet',
  'yellow',
  'grey',
];
const PARTS_OF_DEGREE = 1500;

export function isAreaSymbol({ table, code }: { table: string; code: string }): boolean {
  return table === '\\' && code === 'l';
}

/** Colours 0–9 are written `/0` to `/9`, 10–15 in two digits. */
export function takeArea(text: string, into: AprsReport): string {
  const match = /^(\d)(\d\d)(\/\d|1[0-5])(\d\d)(?:\{(\d{1,3})\})?/.exec(text);
  if (!match) return text;
  const type = Number(match[1]);
  const colour = Number((match[3] as string).replace('/', ''));
  into.area = {
    shape: type === LEFT_LINE ? 'line-left' : (SHAPES[type % FILLED_FROM] as Area['shape']),
    filled: type >= FILLED_FROM && type !== LEFT_LINE,
    latitudeOffsetDeg: Number(match[2]) ** 2 / PARTS_OF_DEGREE,
    longitudeOffsetDeg: Number(match[4]) ** 2 / PARTS_OF_DEGREE,
    colour: COLOURS[colour % 8] as Area['colour'],
    dim: colour >= 8,
    ...(match[5] === undefined ? {} : { corridorM: Number(match[5]) * METRES_PER_MILE }),
  };
  return text.slice(match[0].length);
}

export function encodeArea(area: Area): string {
  const shape = area.shape === 'line-left' ? LEFT_LINE : SHAPES.indexOf(area.shape);
  const type = shape + (area.filled ? FILLED_FROM : 0);
  const colour = COLOURS.indexOf(area.colour) + (area.dim ? 8 : 0);
  const root = (degrees: number): string => digits(Math.sqrt(degrees * PARTS_OF_DEGREE), 2);
  const corridor = area.corridorM === undefined ? '' : `{${Math.round(area.corridorM / METRES_PER_MILE)}}`;
  return `${type}${root(area.latitudeOffsetDeg)}${colour < 10 ? `/${colour}` : colour}${root(area.longitudeOffsetDeg)}${corridor}`;
}
