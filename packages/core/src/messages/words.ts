import type { Outgoing } from './entries.js';
import { mostTries, type MessageRules } from './rules.js';

/** `1 min 50 s`, `8 min`, `40 s`. */
export function spell(ms: number): string {
  const seconds = Math.max(0, Math.round(ms / 1000));
  const [minutes, rest] = [Math.floor(seconds / 60), seconds % 60];
  if (minutes >= 60) return `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
  if (minutes === 0) return `${rest} s`;
  return rest === 0 ? `${minutes} min` : `${minutes} min ${rest} s`;
}

/** How it stands with a message, as one line. waitsFor: what has to come before its station may send by its way; absent: nothing. */
export function standingInWords(
  { phase, tries, number, to, linkId }: Outgoing,
  rules: MessageRules,
  atMs: number,
  waitsFor?: string,
): string {
  const most = mostTries(number !== undefined, rules);
  const sent = `sent ${tries.length} of ${most}`;
  switch (phase.kind) {
    case 'queued': {
      const wait = waitsFor === undefined ? phase.trouble : `waits for ${waitsFor}`;
      return [tries.length === 0 ? 'queued' : sent, ...(wait === undefined ? [] : [wait])].join(', ');
    }
    case 'leaving':
      return tries.length === 1 ? 'on its way out' : `on its way out, try ${tries.length} of ${most}`;
    case 'waiting': {
      const what = tries.length < most ? 'next' : number === undefined ? 'done' : 'given up';
      if (phase.untilMs <= atMs && waitsFor !== undefined) return `${sent}, waits for ${waitsFor}`;
      return `${sent}, ${what} in ${spell(phase.untilMs - atMs)}`;
    }
    case 'acknowledged':
    case 'rejected': {
      const who = phase.by === to ? `by ${phase.by}` : `by ${phase.by}, not by ${to}`;
      const way = phase.linkId === linkId ? '' : ', heard by another way';
      return `${phase.kind} ${who} after ${spell(phase.afterMs)}, at try ${phase.atTry}${way}`;
    }
    case 'no answer':
      return `no answer after ${tries.length === 1 ? 'one try' : `${tries.length} tries`}`;
    case 'told':
      return `sent ${tries.length === 1 ? 'once' : `${tries.length} times`}`;
    case 'cancelled':
      return tries.length === 0 ? 'cancelled before it was sent' : `cancelled, ${sent}`;
    case 'expired':
      return tries.length === 0 ? 'expired before it was sent' : `expired, ${sent}`;
  }
}
