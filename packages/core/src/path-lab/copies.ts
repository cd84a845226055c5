import type { Ax25Frame } from '../ax25/frame.js';
import { USUAL_DUPLICATE_WINDOW_MS } from '../digipeating/digipeater.js';
import { explainPath } from '../digipeating/explain.js';
import { wayOf } from '../digipeating/way.js';

/** One frame of the log: a packet as it came, or one of its copies. */
export interface Copy {
  readonly frame: Ax25Frame;
  readonly atMs: number;
}

/** Why a packet came as often as it did: one sentence, each copy's way, and what in it is no matter of course. */
export interface CopiesExplained {
  readonly verdict: string;
  readonly copies: readonly { readonly afterMs: number; readonly hops: number; readonly words: string }[];
  readonly remarks: readonly string[];
}

/** copies: the same source, destination and info, in the order of time; one at least. */
export function explainCopies(copies: readonly Copy[]): CopiesExplained {
  const [first] = copies;
  if (!first) throw new RangeError('there is no copy to explain');
  const ways = copies.map(({ frame, atMs }) => ({
    ...wayOf(frame.path),
    path: frame.path,
    afterMs: atMs - first.atMs,
  }));
  return {
    verdict: verdictOf(ways),
    copies: ways.map(({ path, hops, afterMs }) => ({ afterMs, hops, words: explainPath(path).summary })),
    remarks: [...sameLast(ways), ...late(ways), ...misused(copies)],
  };
}

interface Way {
  readonly repeaters: readonly string[];
  readonly hops: number;
  readonly afterMs: number;
}

function verdictOf(ways: readonly Way[]): string {
  if (ways.length === 1) return 'It came once.';
  const direct = ways.filter(({ hops }) => hops === 0).length;
  const lasts = [...new Set(ways.flatMap(({ repeaters }) => repeaters.at(-1) ?? []))];
  const from = [
    ...(direct > 0 ? ['its source direct'] : []),
    ...(lasts.length > 0 ? [lasts.join(', ')] : []),
  ].join(' and ');
  return `It came ${ways.length} times, since you hear ${from}: everyone who repeats it sends a copy of its own, and each takes its own air time.`;
}

/** A digipeater repeats a packet once within its window: whoever does it twice breaks the rule, or others share the call. */
function sameLast(ways: readonly Way[]): string[] {
  const seen = new Map<string, number>();
  const found = new Set<string>();
  for (const { repeaters, afterMs } of ways) {
    const last = repeaters.at(-1);
    if (last === undefined) continue;
    const before = seen.get(last);
    if (before !== undefined && afterMs - before < USUAL_DUPLICATE_WINDOW_MS) found.add(last);
    seen.set(last, afterMs);
  }
  return [...found].map(
    (call) =>
      `${call} sent it twice within 30 s: a digipeater should drop the copy that it has repeated (New n-N paradigm).`,
  );
}

function late(ways: readonly Way[]): string[] {
  return ways
    .filter(({ afterMs, hops }) => hops > 0 && afterMs > LATE_MS)
    .map(
      ({ repeaters, afterMs }) =>
        `${repeaters.at(-1) ?? 'Somebody'} sent it ${Math.round(afterMs / 1000)} s late: a busy channel, or a digipeater that holds packets back.`,
    );
}

/** A digipeated frame that waited so long is of no more use (our way out drops it too). */
const LATE_MS = 5000;

function misused(copies: readonly Copy[]): string[] {
  const said = copies.flatMap(({ frame }) =>
    explainPath(frame.path).misuse.map(({ text, rule }) => `${text}: ${rule}.`),
  );
  return [...new Set(said)];
}
