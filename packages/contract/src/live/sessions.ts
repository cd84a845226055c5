import type { SaidView, SessionView } from '../sessions.js';

/** Connections: those that stand, and the last that ended. What was said is asked for, and goes on here. */
export interface SessionsSnapshot {
  readonly sessions: readonly SessionView[];
}

export interface SessionsEvents {
  session: SessionView;
  'session-said': SaidView;
}
