import type { PathHop } from '../ax25/frame.js';
import { isObsoleteAlias, isStationEntry, readAlias } from './alias.js';

/**
 * Who repeated a frame, in order, and how often it was repeated at least: what every frame heard is asked. An alias that is
 * used up, and before which nobody signed, is a hop of its own: somebody repeated it without a trace.
 */
export function wayOf(path: readonly PathHop[]): { repeaters: readonly string[]; hops: number } {
  const repeaters: string[] = [];
  let unsigned = 0;
  let hasSigned = false;
  for (const { call, used } of path) {
    if (!used) continue;
    if (isStationEntry(call)) {
      repeaters.push(call);
      hasSigned = true;
    } else if (readAlias(call) || isObsoleteAlias(call)) {
      if (!hasSigned) unsigned++;
      hasSigned = false;
    }
  }
  return { repeaters, hops: repeaters.length + unsigned };
}
