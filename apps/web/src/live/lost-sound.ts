/** A queue makes sound late, never lost: what counts is the least delay of so long. */
const LOOKED_MS = 5000;

/** Sound that never came: the clock went on, and the samples did not. */
export class LostSound {
  private delays: { readonly atMs: number; readonly delayMs: number }[] = [];
  private first: number | undefined;

  /** Of one report: the clock's time, and how much sound had passed. Returns how much was lost since the beginning, ms. */
  note(atMs: number, passedMs: number): number {
    const delayMs = atMs - passedMs;
    this.delays = [...this.delays.filter((one) => atMs - one.atMs < LOOKED_MS), { atMs, delayMs }];
    const least = Math.min(...this.delays.map((one) => one.delayMs));
    this.first = Math.min(this.first ?? least, least);
    return least - this.first;
  }
}
