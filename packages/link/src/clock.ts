/** Time from outside: production reads the system's, tests and stand-ins a virtual one. */
export interface Clock {
  /** ms since 1970 UTC, for what is recorded and shown. The wall clock may be set, either way, at any moment. */
  nowMs(): number;
  /** ms since some moment before the start, for waits and limits: it only goes forward, and goes on while the machine sleeps. */
  upMs(): number;
  /** Calls once when that many ms of upMs have passed; the returned function cancels. */
  after(ms: number, call: () => void): () => void;
}
