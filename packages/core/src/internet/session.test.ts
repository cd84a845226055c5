import fc from 'fast-check';
import { drive } from '../machine/drive.js';
import { Timetable } from '../network/timetable.js';
import {
  ALIVE_EVERY_MS,
  ANSWER_WITHIN_MS,
  isStandIn,
  loginLine,
  OFF,
  SILENT_AFTER_MS,
  step,
  waitMs,
  type LoginRules,
  type Session,
  type SessionContext,
  type SessionEffect,
  type SessionEvent,
} from './session.js';

const RULES: LoginRules = {
  call: 'QH4MPK-5',
  passcode: 12345,
  software: 'Mistpeak',
  version: '1',
  filter: 'r/-29.6/-11.4/50',
  isDemo: true,
};
const BANNER = '# HOLLIN1 Mistpeak stand-in 1';
const VERIFIED = '# logresp QH4MPK-5 verified, server HOLLIN1';

function rig(rules: Partial<LoginRules> = {}) {
  const clock = new Timetable(0);
  const done: string[] = [];
  const session = drive<Session, SessionEvent, SessionEffect, SessionContext>(step, OFF, {
    clock,
    dice: () => 0,
    context: (moment) => ({ ...moment, rules: { ...RULES, ...rules } }),
    perform: (effect) => done.push('line' in effect ? `${effect.kind} ${effect.line}` : effect.kind),
  });
  const hear = (...lines: string[]): void =>
    lines.forEach((line) => session.dispatch({ kind: 'line', line }));
  const logIn = (): void => {
    session.dispatch({ kind: 'begin' });
    session.dispatch({ kind: 'connected' });
    hear(BANNER, VERIFIED);
    done.length = 0;
  };
  return { clock, done, session, hear, logIn, phase: () => session.state().phase };
}

describe('a connection to the internet service', () => {
  // from: the public connection description, "Logging in"
  it('is greeted, logs in with its filter and is in', () => {
    const { done, session, hear } = rig();
    session.dispatch({ kind: 'begin' });
    session.dispatch({ kind: 'begin' });
    session.dispatch({ kind: 'connected' });
    hear(BANNER);
    expect(done).toEqual([
      'connect',
      'write user QH4MPK-5 pass 12345 vers Mistpeak 1 filter r/-29.6/-11.4/50',
    ]);
    expect(isStandIn(session.state())).toBe(true);
    hear('# something else', VERIFIED);
    expect(session.state()).toEqual({ phase: 'in', banner: BANNER, isVerified: true, server: 'HOLLIN1' });
  });

  it('without a filter asks for none; unverified it says so', () => {
    expect(loginLine({ ...RULES, filter: '', passcode: -1 })).toBe('user QH4MPK-5 pass -1 vers Mistpeak 1');
    const { session, hear } = rig();
    session.dispatch({ kind: 'begin' });
    session.dispatch({ kind: 'connected' });
    hear(BANNER, '# logresp QH4MPK-5 unverified, server HOLLIN1');
    expect(session.state()).toMatchObject({ phase: 'in', isVerified: false });
  });

  it('hands on packets, not comments, and asks for a new filter by a comment', () => {
    const { done, hear, logIn, session } = rig();
    logIn();
    hear('# alive', 'QH7CTA-9>APRS,qAR,QH3PRT-10:>hi');
    session.dispatch({ kind: 'filter' });
    expect(done).toEqual(['packet QH7CTA-9>APRS,qAR,QH3PRT-10:>hi', 'write #filter r/-29.6/-11.4/50']);
  });

  it('a demo call does not log in where the server is no stand-in; others do', () => {
    const { done, session, hear } = rig();
    session.dispatch({ kind: 'begin' });
    session.dispatch({ kind: 'connected' });
    hear('# another server 2.1');
    expect(session.state()).toMatchObject({ phase: 'apart', trouble: 'demo call on a real server' });
    expect(done).toEqual(['connect', 'hang up']);
    const real = rig({ isDemo: false, call: '1X9TST' });
    real.session.dispatch({ kind: 'begin' });
    real.session.dispatch({ kind: 'connected' });
    real.hear('# another server 2.1');
    expect(real.phase()).toBe('login');
    expect(isStandIn(real.session.state())).toBe(false);
  });

  it.each<[string, Session['phase'], string, (one: ReturnType<typeof rig>) => void]>([
    ['no banner within its time', 'greeting', 'no banner', ({ clock }) => clock.advance(ANSWER_WITHIN_MS)],
    ['a banner that is none', 'greeting', 'not such a server', ({ hear }) => hear('\u00c0\u0000x')],
    [
      'no answer to the login',
      'login',
      'no answer to the login',
      ({ clock }) => clock.advance(ANSWER_WITHIN_MS),
    ],
    ['a refusal', 'login', 'login refused', ({ hear }) => hear('# login not allowed')],
    ['hung up at the login', 'login', 'login refused', ({ session }) => session.dispatch({ kind: 'closed' })],
    ['hung up later', 'in', 'closed', ({ session }) => session.dispatch({ kind: 'closed' })],
    ['never connected', 'connecting', 'no connection', ({ session }) => session.dispatch({ kind: 'closed' })],
    ['silent for two minutes', 'in', 'silent', ({ clock }) => clock.advance(SILENT_AFTER_MS)],
  ])('%s', (_, phase, trouble, happens) => {
    const one = rig();
    const { session, hear } = one;
    session.dispatch({ kind: 'begin' });
    if (phase !== 'connecting') session.dispatch({ kind: 'connected' });
    if (phase === 'login' || phase === 'in') hear(BANNER);
    if (phase === 'in') hear(VERIFIED);
    expect(one.phase()).toBe(phase);
    happens(one);
    expect(session.state()).toMatchObject({ phase: 'apart', trouble });
  });

  it('speaks now and then, and takes any line as a sign of life', () => {
    const { clock, done, hear, logIn, phase } = rig();
    logIn();
    clock.advance(ALIVE_EVERY_MS);
    expect(done).toEqual(['write # Mistpeak']);
    clock.advance(SILENT_AFTER_MS - ALIVE_EVERY_MS - 1);
    hear('# alive');
    clock.advance(SILENT_AFTER_MS - 1);
    expect(phase()).toBe('in');
    clock.advance(1);
    expect(phase()).toBe('apart');
    // One 'alive' each minute, and none after it is apart.
    expect(done.filter((each) => each === 'write # Mistpeak')).toHaveLength(3);
  });

  it('comes back after growing waits, which a time within begins anew', () => {
    const { clock, done, session, hear, phase } = rig();
    session.dispatch({ kind: 'begin' });
    for (const wait of [5, 10, 20, 40, 80, 160, 300, 300]) {
      session.dispatch({ kind: 'closed' });
      done.length = 0;
      clock.advance(wait * 1000 - 1);
      expect(done).toEqual([]);
      clock.advance(1);
      expect(done).toEqual(['connect']);
    }
    session.dispatch({ kind: 'connected' });
    hear(BANNER, VERIFIED);
    session.dispatch({ kind: 'closed' });
    clock.advance(5000);
    expect(phase()).toBe('connecting');
    expect([waitMs(1, 1), waitMs(1, 0.5)]).toEqual([6250, 5625]);
  });

  it('ended, it hangs up and stays off; a closing after it changes nothing', () => {
    const { clock, done, session, logIn } = rig();
    logIn();
    session.dispatch({ kind: 'end' });
    session.dispatch({ kind: 'closed' });
    clock.advance(1_000_000);
    expect([done, session.state(), clock.leftovers()]).toEqual([['hang up'], OFF, 0]);
    const apart = rig();
    apart.session.dispatch({ kind: 'begin' });
    apart.session.dispatch({ kind: 'closed' });
    apart.session.dispatch({ kind: 'end' });
    expect([apart.done, apart.clock.leftovers()]).toEqual([['connect'], 0]);
  });

  it('whatever comes in whatever order: one connection at a time, nothing written outside of it, no timer left', () => {
    const events = fc.array(
      fc.oneof(
        fc.constantFrom<SessionEvent>(
          { kind: 'begin' },
          { kind: 'end' },
          { kind: 'connected' },
          { kind: 'closed' },
          { kind: 'filter' },
          { kind: 'line', line: BANNER },
          { kind: 'line', line: VERIFIED },
          { kind: 'line', line: '# invalid' },
        ),
        fc.string().map((line): SessionEvent => ({ kind: 'line', line })),
        fc.integer({ min: 1, max: 400_000 }),
      ),
      { maxLength: 60 },
    );
    fc.assert(
      fc.property(events, (all) => {
        const { clock, done, session } = rig();
        for (const one of all) {
          if (typeof one === 'number') clock.advance(one);
          else session.dispatch(one);
        }
        session.dispatch({ kind: 'end' });
        expect(clock.leftovers()).toBe(0);
        for (const each of done)
          if (each.startsWith('write'))
            expect(each).toMatch(
              /^write (user QH4MPK-5 pass 12345 vers Mistpeak 1 filter|#filter|# Mistpeak)/,
            );
      }),
    );
  });
});
