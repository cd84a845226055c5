import { callWithoutSsid } from '@mistpeak/core/callsign/callsign';
import { TROUBLES } from '@mistpeak/core/mail/trouble';
import type { MailAttempt, MailRunView } from '@mistpeak/contract/mail-session';
import type { WireEnd } from './wire.js';

export const resultOf = (end: WireEnd): MailAttempt['result'] => (end === 'ended' ? 'broken' : end);

const OTHER: Partial<Record<MailAttempt['result'], { means: string; try: string }>> = {
  'no answer': {
    means: 'Out of reach, switched off, or another frequency: from here they look alike.',
    try: 'Take another gateway, or a higher place.',
  },
  refused: {
    means: 'It is there and takes no call now: it is busy, or does not serve this.',
    try: 'Wait a few minutes, or take another gateway.',
  },
  'not tuned': {
    means: 'Nothing was sent.',
    try: 'Set the radio by hand, and look at the words of its control.',
  },
  'busy channel': { means: 'Nothing was sent: others were speaking.', try: 'Try again later.' },
  'demo call': {
    means: 'Demo calls belong to nobody and never leave stand-ins.',
    try: 'Enter your own call in Settings.',
  },
  locked: {
    means: 'Nothing was sent: the transmitter of that link is not armed for this call.',
    try: 'Arm it, then start again.',
  },
  'no way': { means: 'Nothing was sent.', try: 'Look at the profile and its link.' },
};

/** For the operator: how it ended, what that means, and what to try. */
export function outcomeOf(
  result: MailAttempt['result'],
  words: string,
  said: string | undefined,
  attempts: readonly MailAttempt[],
): NonNullable<MailRunView['outcome']> {
  const tried = [...new Set(attempts.map(({ gateway }) => callWithoutSsid(gateway)))];
  if (result === 'done') {
    const others = tried.length - 1;
    const after =
      others === 0 ? '' : ` ${others} ${others === 1 ? 'other was' : 'others were'} tried before.`;
    return {
      ok: true,
      happened: 'All was exchanged.',
      means: `What was posted is there, and what waited is here.${after}`,
      try: 'Nothing need be done.',
    };
  }
  const known = Object.hasOwn(TROUBLES, result) ? TROUBLES[result as keyof typeof TROUBLES] : undefined;
  const other = known ?? {
    happened: `${words.slice(0, 1).toUpperCase()}${words.slice(1)}.`,
    means: '',
    try: '',
    ...OTHER[result],
  };
  const before = tried.length > 1 ? ` ${tried.length} gateways were tried.` : '';
  return {
    ok: false,
    ...other,
    happened: `${other.happened}${before}`,
    ...(said === undefined ? {} : { said }),
  };
}
