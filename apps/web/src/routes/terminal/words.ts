import type { SessionView } from '@mistpeak/contract/sessions';
import { formatAge } from '../../pieces/age';

/** How a session stands, in words. */
export function standingWords(view: SessionView, nowMs: number): string {
  const { phase, peer, trying, outcome, peerBusy, connectedAtMs, calledBy } = view;
  if (outcome !== undefined) return outcome;
  const next = trying
    ? `try ${trying.attempt} of ${trying.of}, next in ${formatAge(trying.nextAtMs - nowMs)}`
    : '';
  switch (phase) {
    case 'awaiting connection':
      return `calling ${peer}: ${next}`;
    case 'awaiting release':
      return `letting ${peer} go: ${next}`;
    case 'timer recovery':
      return `${peer} is asked what it has: ${next}`;
    case 'connected':
      return peerBusy
        ? `connected; ${peer} can take no more at present`
        : `connected for ${formatAge(nowMs - (connectedAtMs ?? nowMs))}${calledBy === 'them' ? `, called by ${peer}` : ''}`;
    case 'disconnected':
      return 'not connected';
  }
}

export const isOpenSession = ({ endedAtMs }: SessionView): boolean => endedAtMs === undefined;
