import { malformed, type Malformed } from '../bits/malformed.js';
import type { Position } from '../geo/position.js';
import { encodeLocated, readLocated } from './located.js';
import type { AprsReport, AprsSymbol } from './report.js';
import { readTimestamp, timestampAt } from './timestamp.js';

/** 1.0.1, "Object and item reports": `;` name of 9, `*` live or `_` killed, time of 7, then a position. */
const OBJECT = /^;(.{9})([*_])(.{7})/s;
const ITEM = /^\)([^!_]{3,9})([!_])/s;
const NAME_WIDTH = 9;
/** The time of an object that stays ("Object report format", permanent objects; from memory). */
const PERMANENT = '111111z';

export function encodeObject(
  object: { name: string; live: boolean; atMs: number },
  position: Position,
  symbol: AprsSymbol,
  comment: string,
): string {
  const { name, live, atMs } = object;
  return encodeObjectReport({
    type: 'object',
    object: { name, live },
    timestamp: timestampAt('dhm-zulu', atMs),
    ...position,
    symbol,
    comment,
  });
}

/** Throws RangeError without a name. */
export function encodeObjectReport(report: AprsReport): string {
  const { object, timestamp } = report;
  if (!object) throw new RangeError('an object needs a name');
  const name = object.name.padEnd(NAME_WIDTH).slice(0, NAME_WIDTH);
  return `;${name}${object.live ? '*' : '_'}${timestamp?.text ?? PERMANENT}${encodeLocated(report)}`;
}

/** Throws RangeError when the name is not 3 to 9 characters without `!` and `_`. */
export function encodeItem(report: AprsReport): string {
  const { object } = report;
  if (!object || !/^[^!_]{3,9}$/.test(object.name))
    throw new RangeError('an item has a name of 3 to 9 characters without ! and _');
  return `)${object.name}${object.live ? '!' : '_'}${encodeLocated(report)}`;
}

export function readObject(info: string): AprsReport | Malformed {
  const match = OBJECT.exec(info);
  if (!match) return malformed('an object is name, live or killed, time, position', 1);
  const timestamp = readTimestamp(match[3] as string);
  const object = { name: (match[1] as string).trimEnd(), live: match[2] === '*' };
  return readPlaced(info, match[0].length, { type: 'object', ...(timestamp ? { timestamp } : {}), object });
}

export function readItem(info: string): AprsReport | Malformed {
  const match = ITEM.exec(info);
  if (!match) return malformed('an item is a name of 3 to 9 characters, ! or _, position', 1);
  const object = { name: match[1] as string, live: match[2] === '!' };
  return readPlaced(info, match[0].length, { type: 'item', object });
}

function readPlaced(info: string, at: number, into: AprsReport): AprsReport | Malformed {
  const refused = readLocated(info.slice(at), into);
  return refused ? malformed(refused.malformed, refused.at + at) : into;
}
