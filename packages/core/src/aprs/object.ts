import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import type { Position } from '../geo/position.js';
import { readLocated } from './located.js';
import { encodePlainPosition } from './plain-position.js';
import type { AprsReport, AprsSymbol } from './report.js';
import { readTimestamp, zuluTimestamp } from './timestamp.js';

/** 1.0.1, "Object and item reports": `;` name of 9, `*` live or `_` killed, time of 7, then a position. */
const OBJECT = /^;(.{9})([*_])(.{7})/s;
const ITEM = /^\)([^!_]{3,9})([!_])/s;

export function encodeObject(
  object: { name: string; live: boolean; atMs: number },
  position: Position,
  symbol: AprsSymbol,
  comment: string,
): string {
  const flag = object.live ? '*' : '_';
  const place = encodePlainPosition(position, symbol);
  return `;${object.name.padEnd(9).slice(0, 9)}${flag}${zuluTimestamp(object.atMs)}${place}${comment}`;
}

export function readObject(info: string): AprsReport | Malformed {
  const match = OBJECT.exec(info);
  const timestamp = readTimestamp(match?.[3] ?? '');
  if (!match || !timestamp) return malformed('an object is name, live or killed, time, position', 1);
  const located = readLocated(info.slice(match[0].length));
  if (isMalformed(located)) return malformed(located.malformed, located.at + match[0].length);
  return {
    type: 'object',
    object: { name: (match[1] as string).trimEnd(), live: match[2] === '*' },
    timestamp,
    ...located,
  };
}

export function readItem(info: string): AprsReport | Malformed {
  const match = ITEM.exec(info);
  if (!match) return malformed('an item is a name of 3 to 9 characters, ! or _, position', 1);
  const located = readLocated(info.slice(match[0].length));
  if (isMalformed(located)) return malformed(located.malformed, located.at + match[0].length);
  return { type: 'item', object: { name: match[1] as string, live: match[2] === '!' }, ...located };
}
