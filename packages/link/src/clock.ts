/** Time from outside: production reads the system's, tests and stand-ins a virtual one. */
export interface Clock {
  /** ms since 1970 UTC. */
  nowMs(): number;
  /** Calls once after that many ms; the returned function cancels. */
  after(ms: number, call: () => void): () => void;
}
