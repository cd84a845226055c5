/** Time from outside: production reads the system's, tests and stand-ins a virtual one. */
export interface Clock {
  /** ms since 1970 UTC, for what is recorded and shown. The wall clock may be set, either way, at any moment. */
  nowMs(): number;
  /** ms since some moment before the start, for waits and limits: it only goes forward, and goes on while the machine sleeps. */
  upMs(): number;
  /** Calls once when that many ms of upMs have passed; the returned function cancels. */
  after(ms: number, call: () => void): () => void;
}

/** Calls again and again, that many ms apart; the returned function ends it, also from within the call. */
export function every(clock: Pick<Clock, 'after'>, ms: number, call: () => void): () => void {
  let isOver = false;
  let cancel: () => void;
  const next = (): void => {
    cancel = clock.after(ms, () => {
      call();
      if (!isOver) next();
    });
  };
  next();
  return () => {
    isOver = true;
    cancel();
  };
}
