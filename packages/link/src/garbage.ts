import type { LinkEvent } from './frame-link.js';

type Discard = Extract<LinkEvent, { kind: 'discard' }>;

/** So many pieces of each reason pass one by one in a second, so that one sees what comes; what is more is summed. */
const SINGLY = 4;
const SECOND_MS = 1000;

interface Sum {
  readonly first: Discard;
  times: number;
  octets: number;
}

/**
 * What is no frame, of one link: a broken wire brings tens of thousands of pieces a second, which are worth a count and not a
 * record each. Times of a clock that only goes forward.
 */
export class Garbage {
  private fromMs = -Infinity;
  private readonly passed = new Map<string, number>();
  private readonly sums = new Map<string, Sum>();

  /** The pieces that are to be passed on now: this one, or none. */
  take(discard: Discard, nowMs: number): readonly Discard[] {
    const before = nowMs - this.fromMs >= SECOND_MS ? this.summed() : [];
    if (before.length > 0 || nowMs - this.fromMs >= SECOND_MS) this.begin(nowMs);
    const passed = this.passed.get(discard.reason) ?? 0;
    if (passed < SINGLY) {
      this.passed.set(discard.reason, passed + 1);
      return [...before, discard];
    }
    const sum = this.sums.get(discard.reason) ?? { first: discard, times: 0, octets: 0 };
    sum.times += discard.times ?? 1;
    sum.octets += discard.octets;
    this.sums.set(discard.reason, sum);
    return before;
  }

  /** Whether something is summed that must be told by a timer if nothing more comes. */
  isHolding(): boolean {
    return this.sums.size > 0;
  }

  /** What was summed so far, one piece for each reason; nothing is held after this. */
  summed(): readonly Discard[] {
    const sums = [...this.sums.values()].map(({ first, times, octets }) => ({ ...first, times, octets }));
    this.sums.clear();
    return sums;
  }

  private begin(nowMs: number): void {
    this.fromMs = nowMs;
    this.passed.clear();
  }
}
