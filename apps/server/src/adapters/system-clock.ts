import { uptime } from 'node:os';
import type { Clock } from '@mistpeak/link/clock';

export const CLOCK = Symbol('clock');

/** The system's timers stand still while the machine sleeps (CLOCK_MONOTONIC, clock_gettime(2)): a long wait looks up this often. */
export const LONGEST_NAP_MS = 5000;

type Timer = (ms: number, call: () => void) => () => void;

/** Long waits by a clock that goes on while the machine sleeps: they end within a nap after it wakes. */
export function sleepProof(upMs: () => number, timer: Timer): Timer {
  return (ms, call) => {
    const dueMs = upMs() + ms;
    let cancel = (): void => undefined;
    const wait = (leftMs: number): void => {
      const nap = leftMs > LONGEST_NAP_MS;
      cancel = timer(nap ? LONGEST_NAP_MS : leftMs, nap ? () => wait(dueMs - upMs()) : call);
    };
    wait(ms);
    return () => cancel();
  };
}

/** Time since boot, which counts sleep and is never set (uptime(2)). */
const upMs = (): number => uptime() * 1000;

const timer: Timer = (ms, call) => {
  const started = setTimeout(call, Math.max(0, ms));
  return () => clearTimeout(started);
};

export const systemClock: Clock = { nowMs: () => Date.now(), upMs, after: sleepProof(upMs, timer) };

/** A clock that shows that time now and goes on at the usual pace. */
export function clockFrom(startMs: number): Clock {
  const offsetMs = startMs - Date.now();
  return { ...systemClock, nowMs: () => Date.now() + offsetMs };
}
