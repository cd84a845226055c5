import type { Clock } from '@mistpeak/link/clock';

export const systemClock: Clock = {
  nowMs: () => Date.now(),
  upMs: () => performance.now(),
  after: (ms, call) => {
    const timer = setTimeout(call, ms);
    return () => clearTimeout(timer);
  },
};

/** A clock that shows that time now and goes on at the usual pace. */
export function clockFrom(startMs: number): Clock {
  const offsetMs = startMs - Date.now();
  return { ...systemClock, nowMs: () => Date.now() + offsetMs };
}
