import type { TrueTimeView } from '../true-time.js';

/** Whether the server’s clock is right. */
export interface TrueTimeSnapshot {
  readonly trueTime: TrueTimeView;
}

export interface TrueTimeEvents {
  trueTime: TrueTimeView;
}
