import type { Clock } from '@mistpeak/link/clock';

interface Pending {
  readonly dueMs: number;
  readonly call: () => void;
  timer: NodeJS.Timeout;
}

/** The system's clock, which a test can move: time passes, the machine sleeps, somebody sets the wall clock. */
export class MovedClock implements Clock {
  private wallAheadMs = 0;
  private upAheadMs = 0;
  private readonly pending = new Set<Pending>();

  nowMs(): number {
    return Date.now() + this.wallAheadMs;
  }

  upMs(): number {
    return performance.now() + this.upAheadMs;
  }

  after(ms: number, call: () => void): () => void {
    const one: Pending = { dueMs: this.upMs() + ms, call, timer: setTimeout(() => this.ringIfDue(one), ms) };
    this.pending.add(one);
    return () => this.cancel(one);
  }

  /** So much time passes at once: both clocks go on, and every timer that is due rings. */
  pass(ms: number): void {
    this.sleep(ms);
    const due = [...this.pending].filter(({ dueMs }) => dueMs <= this.upMs());
    for (const one of due.sort((a, b) => a.dueMs - b.dueMs)) if (this.pending.has(one)) this.ring(one);
  }

  /** Both clocks go on while the timers stand still. */
  sleep(ms: number): void {
    this.upAheadMs += ms;
    this.wallAheadMs += ms;
  }

  /** Somebody sets the wall clock by that many ms, either way. */
  setWall(byMs: number): void {
    this.wallAheadMs += byMs;
  }

  /** The system's timers may ring a fraction early. */
  private ringIfDue(one: Pending): void {
    if (one.dueMs <= this.upMs()) this.ring(one);
    else one.timer = setTimeout(() => this.ringIfDue(one), 1);
  }

  private ring(one: Pending): void {
    this.cancel(one);
    one.call();
  }

  private cancel(one: Pending): void {
    clearTimeout(one.timer);
    this.pending.delete(one);
  }
}
