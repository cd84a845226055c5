import type { Clock } from '@mistpeak/link/clock';

/** The computer’s clock, and what it is known to be wrong by. Waits do not change with it. */
export class CorrectableClock implements Clock {
  private byMs = 0;

  constructor(private readonly computers: Clock) {}

  nowMs(): number {
    return this.computers.nowMs() + this.byMs;
  }

  upMs(): number {
    return this.computers.upMs();
  }

  after(ms: number, call: () => void): () => void {
    return this.computers.after(ms, call);
  }

  /** By the computer’s clock alone, ms since 1970. */
  computersMs(): number {
    return this.computers.nowMs();
  }

  correctedByMs(): number {
    return this.byMs;
  }

  correctBy(ms: number): void {
    this.byMs = ms;
  }
}
