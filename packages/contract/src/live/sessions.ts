import type { MailboxView } from '../mailbox.js';
import type { SaidView, SessionFileView, SessionView } from '../sessions.js';
import type { ConsoleView, TerminalSettingsView, VisitView } from '../terminal.js';

/** Connections: those that stand, and the last that ended. What was said is asked for, and goes on here. */
export interface SessionsSnapshot {
  readonly sessions: readonly SessionView[];
  readonly terminal: TerminalSettingsView;
  readonly visits: readonly VisitView[];
  readonly mailbox: MailboxView;
  readonly consoles: readonly ConsoleView[];
}

export interface SessionsEvents {
  session: SessionView;
  'session-said': SaidView;
  'session-file': SessionFileView;
  terminal: TerminalSettingsView;
  visit: VisitView;
  mailbox: MailboxView;
  console: ConsoleView;
  'console-said': {
    readonly linkId: string;
    readonly side: 'mine' | 'theirs';
    readonly atMs: number;
    readonly hex: string;
  };
}
