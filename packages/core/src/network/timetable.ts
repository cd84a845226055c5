/** Things to do at times, in order of time, then of request: the clock of a simulation. Times in ms. */
export interface Appointment {
  readonly atMs: number;
  readonly order: number;
  readonly call: () => void;
  cancelled: boolean;
}

/** A binary heap; cancelled appointments are passed over when their turn comes. */
export class Timetable {
  private readonly heap: Appointment[] = [];
  private order = 0;
  private live = 0;

  constructor(private timeMs = 0) {}

  nowMs(): number {
    return this.timeMs;
  }

  /** One time for both: nobody sets this clock. */
  upMs(): number {
    return this.timeMs;
  }

  /** Returns what cancels it. */
  after(ms: number, call: () => void): () => void {
    const appointment = { atMs: this.timeMs + Math.max(0, ms), order: this.order++, call, cancelled: false };
    this.push(appointment);
    this.live++;
    return () => {
      if (!appointment.cancelled) this.live--;
      appointment.cancelled = true;
    };
  }

  /** Appointments that nobody cancelled: none after a scenario is over. */
  leftovers(): number {
    return this.live;
  }

  /** Does what comes next, if it comes by that time; false when nothing does. */
  next(untilMs = Infinity): boolean {
    for (let first = this.heap[0]; first; first = this.heap[0]) {
      if (!first.cancelled && first.atMs > untilMs) return false;
      this.pop();
      if (first.cancelled) continue;
      first.cancelled = true;
      this.live--;
      this.timeMs = first.atMs;
      first.call();
      return true;
    }
    return false;
  }

  /** Everything due within that many ms; then it is so much later. */
  advance(ms: number): void {
    const untilMs = this.timeMs + ms;
    while (this.next(untilMs));
    this.timeMs = untilMs;
  }

  private push(appointment: Appointment): void {
    const { heap } = this;
    let at = heap.push(appointment) - 1;
    for (let up = (at - 1) >> 1; at > 0 && isEarlier(appointment, heap[up]); at = up, up = (at - 1) >> 1)
      heap[at] = heap[up] as Appointment;
    heap[at] = appointment;
  }

  private pop(): void {
    const { heap } = this;
    const last = heap.pop();
    if (!last || heap.length === 0) return;
    let at = 0;
    for (let down = 1; down < heap.length; down = 2 * at + 1) {
      const child = isEarlier(heap[down + 1], heap[down]) ? down + 1 : down;
      if (!isEarlier(heap[child], last)) break;
      heap[at] = heap[child] as Appointment;
      at = child;
    }
    heap[at] = last;
  }
}

function isEarlier(a: Appointment | undefined, b: Appointment | undefined): boolean {
  if (!a || !b) return false;
  return a.atMs < b.atMs || (a.atMs === b.atMs && a.order < b.order);
}
