import type { Clock } from '@mistpeak/link/clock';

export const CLOCK = Symbol('clock');

export const systemClock: Clock = {
  nowMs: () => Date.now(),
  after: (ms, call) => {
    const timer = setTimeout(call, ms);
    return () => clearTimeout(timer);
  },
};
