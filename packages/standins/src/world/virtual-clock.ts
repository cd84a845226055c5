import type { Clock } from '@mistpeak/link/clock';

interface Appointment {
  readonly atMs: number;
  readonly order: number;
  readonly call: () => void;
}

/** Time that stands still until it is told to go on, event by event. */
export class VirtualClock implements Clock {
  private readonly appointments = new Set<Appointment>();
  private order = 0;

  constructor(private timeMs = 0) {}

  nowMs(): number {
    return this.timeMs;
  }

  after(ms: number, call: () => void): () => void {
    const appointment = { atMs: this.timeMs + Math.max(0, ms), order: this.order++, call };
    this.appointments.add(appointment);
    return () => this.appointments.delete(appointment);
  }

  /** Runs everything due within that many ms, in order of time, then of request. */
  advance(ms: number): void {
    const untilMs = this.timeMs + ms;
    for (let next = this.next(); next && next.atMs <= untilMs; next = this.next()) {
      this.appointments.delete(next);
      this.timeMs = next.atMs;
      next.call();
    }
    this.timeMs = untilMs;
  }

  /** Appointments that nobody cancelled: none after a scenario is over. */
  leftovers(): number {
    return this.appointments.size;
  }

  private next(): Appointment | undefined {
    let first: Appointment | undefined;
    for (const one of this.appointments)
      if (!first || one.atMs < first.atMs || (one.atMs === first.atMs && one.order < first.order))
        first = one;
    return first;
  }
}
