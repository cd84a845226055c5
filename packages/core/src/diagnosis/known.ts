import type { Finding } from '../faults/bayes.js';

/** A call of ours on the link: the newest first. lastedMs: from being answered to the end. */
export interface OwnCall {
  readonly peer: string;
  readonly isAnswered: boolean;
  readonly isOver: boolean;
  readonly lastedMs: number;
  /** Octets of text that the far end said. */
  readonly heardOctets: number;
}

/** Who is answered, and let go so soon with hardly a word, was not served (common practice, no source). */
const SOON_MS = 60_000;
const FEW_OCTETS = 200;

const isClosedSoon = ({ lastedMs, heardOctets }: OwnCall): boolean =>
  lastedMs <= SOON_MS && heardOctets <= FEW_OCTETS;

/** What our last calls tell: how the one came out that went ill, and whether others answered. */
export function findingsOfCalls(calls: readonly OwnCall[]): readonly Finding[] {
  const over = calls.filter(({ isOver }) => isOver);
  const [last] = over;
  if (!last) return [];
  if (last.isAnswered && !isClosedSoon(last)) return [{ test: 'call', outcome: 'it answers and serves' }];
  const call: Finding = {
    test: 'call',
    outcome: last.isAnswered ? 'it answers and closes' : 'no answer',
  };
  const others = over.filter(({ peer }) => peer !== last.peer);
  if (others.length === 0) return [call];
  const isAnswered = others.some((one) => one.isAnswered && !isClosedSoon(one));
  return [call, { test: 'another', outcome: isAnswered ? 'it answers' : 'no answer' }];
}

/** What the words of a receive check come to as the outcome of looking at the level. */
const LEVELS: readonly (readonly [RegExp, string])[] = [
  [/^Nothing at all comes in/, 'no signal at all'],
  [/under the window/, 'too weak'],
  [/ms of every packet are missing/, 'cut at its start'],
];

/** check: the last receive check, as it was told. */
export function findingsOfLevel(
  check: { readonly words: string; readonly isInWindow?: boolean | undefined } | undefined,
): readonly Finding[] {
  if (!check) return [];
  const outcome =
    check.isInWindow === true ? 'in the window' : LEVELS.find(([words]) => words.test(check.words))?.[1];
  return outcome === undefined ? [] : [{ test: 'meter', outcome }];
}
