import {
  start,
  stop,
  type Moment,
  type Stepped,
  type TimerEffect,
  type TimerEvent,
} from '../machine/machine.js';

/**
 * One connection to a server of the internet service (public connection description of APRS-IS).
 *
 *   off --begin--> connecting --connected--> greeting --banner--> login --answer--> in
 *   connecting, greeting, login, in --closed, failed or silent--> apart, and after a growing wait connecting again
 *   any --end--> off
 *
 * The server speaks first. A demo call logs in only where the banner says that the server is a stand-in.
 */
export type Session =
  | { readonly phase: 'off' }
  | { readonly phase: 'connecting'; readonly attempt: number }
  | { readonly phase: 'greeting'; readonly attempt: number }
  | { readonly phase: 'login'; readonly attempt: number; readonly banner: string }
  | {
      readonly phase: 'in';
      readonly banner: string;
      /** What may be sent is passed on only then. */
      readonly isVerified: boolean;
      readonly server: string;
    }
  | {
      readonly phase: 'apart';
      readonly attempt: number;
      readonly trouble: Trouble;
      readonly detail?: string;
    };

export type Trouble =
  | 'no connection'
  | 'no banner'
  | 'not such a server'
  | 'no answer to the login'
  | 'login refused'
  | 'demo call on a real server'
  | 'silent'
  | 'closed';

export interface LoginRules {
  readonly call: string;
  /** -1: receive only. */
  readonly passcode: number;
  readonly software: string;
  readonly version: string;
  /** Empty: what the server sends by itself. */
  readonly filter: string;
  readonly isDemo: boolean;
}

export type SessionEvent =
  | { readonly kind: 'begin' }
  | { readonly kind: 'end' }
  | { readonly kind: 'connected' }
  | { readonly kind: 'closed'; readonly detail?: string }
  | { readonly kind: 'line'; readonly line: string }
  /** The filter is not what it was. */
  | { readonly kind: 'filter' }
  | TimerEvent;

export type SessionEffect =
  | TimerEffect<'banner' | 'login' | 'silence' | 'retry' | 'alive'>
  | { readonly kind: 'connect' }
  | { readonly kind: 'hang up' }
  | { readonly kind: 'write'; readonly line: string }
  | { readonly kind: 'packet'; readonly line: string };

export interface SessionContext extends Moment {
  readonly rules: LoginRules;
}

type Outcome = Stepped<Session, SessionEffect>;

export const OFF: Session = { phase: 'off' };

/** Servers greet at once; slow ways take some seconds (ours). */
export const ANSWER_WITHIN_MS = 20_000;
/** Servers send a comment every 20 s or so (common practice, no source). */
export const SILENT_AFTER_MS = 120_000;
/** So that a way that is half gone is noticed from either side (ours). */
export const ALIVE_EVERY_MS = 60_000;
const FIRST_WAIT_MS = 5000;
const LONGEST_WAIT_MS = 300_000;

/** Our stand-in server says this in its banner. */
export const STAND_IN_BANNER = /^# .*\bMistpeak stand-in\b/;

/** Growing waits, spread by up to a quarter so that not all come back at once. attempt from 1. */
export function waitMs(attempt: number, dice: number): number {
  return Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** Math.min(attempt - 1, 16)) * (1 + dice / 4);
}

export const isStandIn = (session: Session): boolean =>
  'banner' in session && STAND_IN_BANNER.test(session.banner);

export function step(session: Session, event: SessionEvent, context: SessionContext): Outcome {
  switch (event.kind) {
    case 'begin':
      return session.phase === 'off'
        ? [{ phase: 'connecting', attempt: 1 }, [{ kind: 'connect' }]]
        : [session, []];
    case 'end':
      return [OFF, [...quiet(), stop('retry'), ...(isWired(session) ? [{ kind: 'hang up' } as const] : [])]];
    case 'connected':
      return session.phase === 'connecting'
        ? [{ phase: 'greeting', attempt: session.attempt }, [start('banner', ANSWER_WITHIN_MS)]]
        : [session, []];
    case 'closed':
      return closed(session, event.detail, context);
    case 'line':
      return hear(session, event.line, context);
    case 'filter':
      return session.phase === 'in' ? [session, [asked(context.rules)]] : [session, []];
    case 'timer':
      return ring(session, event.timer, context);
  }
}

/** A connection is there or on its way. */
const isWired = ({ phase }: Session): boolean => phase !== 'off' && phase !== 'apart';

const quiet = (): SessionEffect[] => [stop('banner'), stop('login'), stop('silence'), stop('alive')];

/** In a session a new filter is asked for by a comment (same description, "filter commands"). */
const asked = ({ filter }: LoginRules): SessionEffect => ({
  kind: 'write',
  line: `#filter ${filter || 'default'}`,
});

function closed(session: Session, detail: string | undefined, context: SessionContext): Outcome {
  if (!isWired(session)) return [session, []];
  const trouble =
    session.phase === 'connecting' ? 'no connection' : session.phase === 'login' ? 'login refused' : 'closed';
  return apart(session, trouble, context, detail, []);
}

function apart(
  session: Session,
  trouble: Trouble,
  { dice }: SessionContext,
  detail: string | undefined,
  first: readonly SessionEffect[] = [{ kind: 'hang up' }],
): Outcome {
  // Who has been in begins anew with the short wait.
  const attempt = 'attempt' in session ? session.attempt : 1;
  return [
    { phase: 'apart', attempt, trouble, ...(detail === undefined ? {} : { detail }) },
    [...first, ...quiet(), start('retry', waitMs(attempt, dice))],
  ];
}

function ring(session: Session, timer: string, context: SessionContext): Outcome {
  if (timer === 'retry' && session.phase === 'apart')
    return [{ phase: 'connecting', attempt: session.attempt + 1 }, [{ kind: 'connect' }]];
  if (timer === 'banner' && session.phase === 'greeting')
    return apart(session, 'no banner', context, undefined);
  if (timer === 'login' && session.phase === 'login')
    return apart(session, 'no answer to the login', context, undefined);
  if (session.phase !== 'in') return [session, []];
  if (timer === 'silence') return apart(session, 'silent', context, undefined);
  if (timer === 'alive')
    return [
      session,
      [{ kind: 'write', line: `# ${context.rules.software}` }, start('alive', ALIVE_EVERY_MS)],
    ];
  return [session, []];
}

function hear(session: Session, line: string, context: SessionContext): Outcome {
  switch (session.phase) {
    case 'greeting':
      return greet(session.attempt, line, context);
    case 'login':
      return answered(session, line, context);
    case 'in': {
      const packet: SessionEffect[] = line.startsWith('#') ? [] : [{ kind: 'packet', line }];
      return [session, [...packet, start('silence', SILENT_AFTER_MS)]];
    }
    default:
      return [session, []];
  }
}

function greet(attempt: number, banner: string, context: SessionContext): Outcome {
  const { rules } = context;
  const state: Session = { phase: 'login', attempt, banner };
  if (!banner.startsWith('#')) return apart(state, 'not such a server', context, banner.slice(0, 80));
  if (rules.isDemo && !STAND_IN_BANNER.test(banner))
    return apart(state, 'demo call on a real server', context, banner.slice(0, 80));
  return [
    state,
    [stop('banner'), { kind: 'write', line: loginLine(rules) }, start('login', ANSWER_WITHIN_MS)],
  ];
}

/** `user CALL pass N vers NAME VER filter …`. */
export function loginLine({ call, passcode, software, version, filter }: LoginRules): string {
  return `user ${call} pass ${passcode} vers ${software} ${version}${filter === '' ? '' : ` filter ${filter}`}`;
}

const ANSWER = /^# logresp (\S+) (verified|unverified)(?:, server (\S+))?/;

function answered(
  session: Extract<Session, { phase: 'login' }>,
  line: string,
  context: SessionContext,
): Outcome {
  const answer = ANSWER.exec(line);
  if (!answer) {
    // Other comments and packets may come before the answer; a refusal is a comment too.
    const isRefusal = /^# .*\b(?:invalid|denied|not allowed|bad)\b/i.test(line);
    return isRefusal ? apart(session, 'login refused', context, line.slice(0, 80)) : [session, []];
  }
  const [, , verdict, server = ''] = answer;
  return [
    {
      phase: 'in',
      banner: session.banner,
      isVerified: verdict === 'verified',
      server: server.replace(/,$/, ''),
    },
    [stop('login'), start('silence', SILENT_AFTER_MS), start('alive', ALIVE_EVERY_MS)],
  ];
}
