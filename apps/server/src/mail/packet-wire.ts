import { FAILURES } from '@mistpeak/contract/failures';
import type { CallStation } from '@mistpeak/contract/sessions';
import { ProblemException } from '../problems/problem.js';
import type { SessionRun } from '../sessions/session-run.js';
import type { SessionListener, SessionsService } from '../sessions/sessions.service.js';
import type { MailWire, WireEvents } from './wire.js';

/** Calls a station by packet. Its session is the wire. */
export function callByPacket(
  sessions: SessionsService,
  id: string,
  call: CallStation,
  events: WireEvents,
): MailWire {
  const wire = wireOf(() => sessions.run(id));
  try {
    const view = sessions.open(id, call, listenerOf(events), 'mail');
    // The same command again: that session may be over.
    if (view.endedAtMs !== undefined) events.ended('ended', view.outcome ?? 'it is over');
  } catch (error) {
    if (!(error instanceof ProblemException)) throw error;
    const isLocked =
      error.reason === 'not-armed' ||
      error.reason === 'armed-for-another-call' ||
      error.reason === 'closed-meanwhile';
    events.ended(
      error.reason === 'demo-call-on-a-real-link' ? 'demo call' : isLocked ? 'locked' : 'no way',
      FAILURES[error.reason].happened,
    );
  }
  return wire;
}

/** Somebody has called: his session is the wire. */
export function calledByPacket(
  run: SessionRun,
  events: WireEvents,
): { wire: MailWire; listener: SessionListener } {
  return { wire: wireOf(() => run), listener: listenerOf(events) };
}

function wireOf(run: () => SessionRun): MailWire {
  const attempt = (act: (run: SessionRun) => void): void => {
    try {
      act(run());
    } catch (error) {
      // It ended by itself in that moment: that is told already.
      if (!(error instanceof ProblemException)) throw error;
    }
  };
  return {
    say: (octets, isSecret) => attempt((one) => one.say(octets, isSecret)),
    hangUp: () => attempt((one) => one.disconnectWhenSaid()),
    drop: () => attempt((one) => one.disconnect()),
  };
}

function listenerOf(events: WireEvents): SessionListener {
  return {
    connected: () => events.connected(),
    data: (octets) => events.data(octets),
    confirmed: (octets) => events.confirmed(octets),
    ended: ({ connectedAtMs, outcome = 'it ended' }) =>
      events.ended(
        connectedAtMs !== undefined ? 'ended' : outcome.includes('refuses') ? 'refused' : 'no answer',
        outcome,
      ),
  };
}
