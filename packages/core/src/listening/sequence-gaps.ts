/** What a station sent by its own count, and how much of it did not come. */
export interface SequenceGaps {
  readonly came: number;
  readonly lost: number;
}

/** A jump by more is a new beginning, not a loss (common practice, no source). */
const MOST_IN_A_ROW = 60;

/**
 * From sequence numbers in the order in which they came, copies among them. turn: how many numbers there are before they begin
 * again: 1000 for `T#nnn` (APRS 1.0.1, "Telemetry data"), 8281 in base 91 (from memory: a published addition of 2012).
 */
export function sequenceGaps(numbers: readonly number[], turn: number): SequenceGaps {
  let [came, lost] = [0, 0];
  let last: number | undefined;
  for (const number of numbers) {
    const step = last === undefined ? 1 : (((number - last) % turn) + turn) % turn;
    // The same one again is a copy; one from behind came late, and had been counted as lost.
    if (step === 0) continue;
    came++;
    if (turn - step <= MOST_IN_A_ROW && turn - step < step) {
      lost = Math.max(0, lost - 1);
      continue;
    }
    if (step <= MOST_IN_A_ROW) lost += step - 1;
    last = number;
  }
  return { came, lost };
}
