import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import type { Position } from '../geo/position.js';
import { encodeCompressedPosition } from './compressed-position.js';
import { readLocated } from './located.js';
import { encodePlainPosition } from './plain-position.js';
import type { AprsReport, AprsSymbol } from './report.js';
import { readTimestamp } from './timestamp.js';

/** 1.0.1, "Position and DF report data formats": `!` `=` without time, `/` `@` with; `=` and `@` can take messages. */
const TIMED = '/@';
const MESSAGING = '=@';

/** A fixed station's report without time. form: compressed saves 6 octets and gives finer steps (0.3 m against 18 m). */
export function encodePositionReport(
  position: Position,
  symbol: AprsSymbol,
  { comment = '', messaging = false, compressed = false, ambiguityDigits = 0 } = {},
): string {
  const place = compressed
    ? encodeCompressedPosition(position, symbol)
    : encodePlainPosition(position, symbol, ambiguityDigits);
  return (messaging ? '=' : '!') + place + comment;
}

export function readPositionReport(info: string): AprsReport | Malformed {
  const kind = info[0] as string;
  const timestamp = TIMED.includes(kind) ? readTimestamp(info.slice(1)) : undefined;
  if (TIMED.includes(kind) && !timestamp) return malformed('the time is not DDHHMMz, DDHHMM/ or HHMMSSh', 1);
  const at = 1 + (timestamp?.text.length ?? 0);
  const located = readLocated(info.slice(at));
  if (isMalformed(located)) return malformed(located.malformed, located.at + at);
  return {
    type: located.weather ? 'weather' : 'position',
    messaging: MESSAGING.includes(kind),
    ...(timestamp ? { timestamp } : {}),
    ...located,
  };
}
