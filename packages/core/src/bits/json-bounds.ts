/** What JSON that people make never exceeds: how deep, how many members in one object or list, and how many in all. */
export interface JsonBounds {
  readonly depth: number;
  readonly members: number;
  readonly total: number;
}

export const USUAL_JSON_BOUNDS: JsonBounds = { depth: 24, members: 2000, total: 50_000 };

const QUOTE = 0x22;
const BACKSLASH = 0x5c;
const COMMA = 0x2c;
const [OPEN_LIST, CLOSE_LIST, OPEN_OBJECT, CLOSE_OBJECT] = [0x5b, 0x5d, 0x7b, 0x7d] as const;

/**
 * Whether JSON text exceeds the bounds, found by its signs alone in one pass, before anything is made of it. octets: UTF-8; a
 * text that is no JSON is not judged, that is the parser's part (RFC 8259).
 */
export function exceedsJsonBounds(octets: Uint8Array, bounds: JsonBounds = USUAL_JSON_BOUNDS): boolean {
  const { depth, members, total } = bounds;
  const open: number[] = [];
  let all = 0;
  for (let i = 0; i < octets.length; i++) {
    switch (octets[i]) {
      case QUOTE:
        i = endOfString(octets, i);
        break;
      case OPEN_LIST:
      case OPEN_OBJECT:
        if (open.push(1) > depth) return true;
        break;
      case CLOSE_LIST:
      case CLOSE_OBJECT:
        open.pop();
        break;
      case COMMA:
        open.push((open.pop() ?? 1) + 1);
        if (++all > total || (open.at(-1) ?? 0) > members) return true;
        break;
    }
  }
  return false;
}

/** The place of the closing quote, or the end. */
function endOfString(octets: Uint8Array, at: number): number {
  for (let i = at + 1; i < octets.length; i++) {
    if (octets[i] === BACKSLASH) i++;
    else if (octets[i] === QUOTE) return i;
  }
  return octets.length;
}
