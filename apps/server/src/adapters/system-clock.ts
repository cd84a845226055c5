import { uptime } from 'node:os';
import type { Clock } from '@mistpeak/link/clock';

export const CLOCK = Symbol('clock');

/** The system's timers stand still while the machine sleeps (CLOCK_MONOTONIC, clock_gettime(2)): a long wait looks up this often. */
export const LONGEST_NAP_MS = 5000;

type Timer = (ms: number, call: () => void) => () => void;

/** Waits by a clock that goes on while the machine sleeps: long ones end within a nap after it wakes, and none ends early. */
export function sleepProof(upMs: () => number, timer: Timer): Timer {
  return (ms, call) => {
    const dueMs = upMs() + ms;
    let cancel = (): void => undefined;
    const wait = (leftMs: number): void => {
      cancel = timer(Math.min(leftMs, LONGEST_NAP_MS), () => {
        const stillMs = dueMs - upMs();
        // Timers count in whole ms and may ring a fraction early.
        if (stillMs > 0) wait(Math.ceil(stillMs));
        else call();
      });
    };
    wait(ms);
    return () => cancel();
  };
}

/** The system tells the time since boot in hundredths of a second (/proc/uptime, proc(5)). */
const COARSE_STEP_MS = 20;

/** The coarse clock is a file that the system writes at each look: not with every frame of a busy link. */
export const COARSE_EVERY_MS = 10;

/** The time since boot by a fine clock that stands still while the machine sleeps, put right by a coarse one that does not. */
export function fineUpMs(coarseMs: () => number, fineMs: () => number): () => number {
  let aheadMs = coarseMs() - fineMs();
  let lookAgainAtMs = -Infinity;
  return () => {
    const nowMs = fineMs();
    if (nowMs >= lookAgainAtMs) {
      lookAgainAtMs = nowMs + COARSE_EVERY_MS;
      const behindMs = coarseMs() - nowMs - aheadMs;
      if (behindMs > COARSE_STEP_MS) aheadMs += behindMs;
    }
    return nowMs + aheadMs;
  };
}

/** Counts sleep and is never set (uptime(2)). */
const upMs = fineUpMs(
  () => uptime() * 1000,
  () => performance.now(),
);

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
