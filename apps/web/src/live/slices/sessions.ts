import type { SessionsEvents } from '@mistpeak/contract/live/sessions';
import type { MailboxView } from '@mistpeak/contract/mailbox';
import type { SaidView, SessionFileView, SessionView } from '@mistpeak/contract/sessions';
import type { ConsoleView, TerminalSettingsView, VisitView } from '@mistpeak/contract/terminal';
import { USUAL_RULES } from '@mistpeak/core/mailbox/rules';
import { replaceById, withEntry, type Slice } from './slice';

export interface ConsoleSaid {
  readonly side: 'mine' | 'theirs';
  readonly atMs: number;
  readonly hex: string;
}

export interface SessionsState {
  readonly sessions: readonly SessionView[];
  /** By session: what was said, where a page has asked for it. */
  readonly said: ReadonlyMap<string, readonly SaidView[]>;
  readonly sessionFiles: readonly SessionFileView[];
  readonly terminal: TerminalSettingsView;
  readonly visits: readonly VisitView[];
  readonly consoles: readonly ConsoleView[];
  /** By link, where a page has asked for it. */
  readonly consoleSaid: ReadonlyMap<string, readonly ConsoleSaid[]>;
  readonly mailbox: MailboxView;
}

const SHOWN_SESSIONS = 50;

const MAILBOX: MailboxView = {
  settings: {
    ...USUAL_RULES,
    listed: [],
    isOn: false,
    ssid: 1,
    allowsAutomatic: false,
    announces: false,
    version: 0,
  },
  letters: [],
  halfReceived: [],
  usedOctets: 0,
};

export const sessions: Slice<SessionsState, keyof SessionsEvents> = {
  empty: {
    sessions: [],
    said: new Map(),
    sessionFiles: [],
    terminal: { nodes: [], macros: [], version: 0 },
    visits: [],
    consoles: [],
    consoleSaid: new Map(),
    mailbox: MAILBOX,
  },
  // What was said meanwhile is asked for anew by whoever shows it.
  ofSnapshot: ({ sessions: views, terminal, visits, consoles, mailbox }) => ({
    sessions: views,
    terminal,
    visits,
    consoles,
    mailbox,
    said: new Map(),
    consoleSaid: new Map(),
  }),
  on: {
    session: (state, view) => ({ sessions: replaceById(state.sessions, view).slice(-SHOWN_SESSIONS) }),
    'session-said': ({ said }, one) => {
      const known = said.get(one.sessionId);
      return known ? { said: withEntry(said, one.sessionId, withSaid(known, [one])) } : {};
    },
    'session-file': ({ sessionFiles }, file) => ({ sessionFiles: replaceById(sessionFiles, file) }),
    terminal: (_, terminal) => ({ terminal }),
    visit: ({ visits }, visit) => ({ visits: replaceById(visits, visit) }),
    mailbox: (_, mailbox) => ({ mailbox }),
    console: ({ consoles }, view) => ({
      consoles: [...consoles.filter(({ linkId }) => linkId !== view.linkId), view],
    }),
    'console-said': ({ consoleSaid }, { linkId, ...one }) => {
      const known = consoleSaid.get(linkId);
      return known ? { consoleSaid: withEntry(consoleSaid, linkId, [...known, one]) } : {};
    },
  },
};

/** In order, each once: what was asked for and what came meanwhile overlap. */
export function withSaid(known: readonly SaidView[], more: readonly SaidView[]): readonly SaidView[] {
  const last = known.at(-1)?.seq ?? -1;
  if (more.every(({ seq }, i) => seq === last + 1 + i)) return [...known, ...more];
  const bySeq = new Map([...known, ...more].map((one) => [one.seq, one]));
  return [...bySeq.values()].sort((a, b) => a.seq - b.seq);
}
