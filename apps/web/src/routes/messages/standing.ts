import { standingInWords } from '@mistpeak/core/messages/words';
import { isOpen } from '@mistpeak/core/messages/entries';
import type { MessageRules } from '@mistpeak/core/messages/rules';
import { INTERNET_SIDE } from '@mistpeak/contract/frame';
import type { MessageSettings, OutgoingView } from '@mistpeak/contract/messages';
import { useLive } from '../../live/store';

export function rulesOf(settings: MessageSettings): MessageRules {
  return {
    firstGapMs: settings.firstGapS * 1000,
    longestGapMs: settings.longestGapS * 1000,
    tries: settings.tries,
    bulletinTries: settings.bulletinTries,
    offersReplyAcks: settings.offersReplyAcks,
  };
}

/** What has to come before it may leave. */
export const waitsFor = ({ linkId, from }: Pick<OutgoingView, 'linkId' | 'from'>): string =>
  linkId === INTERNET_SIDE ? 'a verified connection that may send' : `the transmitter, armed as ${from}`;

/** Whether that station may send by that link at this moment. */
export function useMayLeave(from: string, linkId: string): boolean {
  return useLive(({ locks, internet }) => {
    if (linkId === INTERNET_SIDE)
      return internet.phase === 'in' && internet.isVerified === true && internet.settings?.sends === true;
    const lock = locks.get(linkId);
    return lock?.armed === true && lock.call === from;
  });
}

export function useStandingWords(message: OutgoingView, nowMs: number): string {
  const settings = useLive((state) => state.messages.settings);
  const mayLeave = useMayLeave(message.from, message.linkId);
  return standingInWords(message, rulesOf(settings), nowMs, mayLeave ? undefined : waitsFor(message));
}

const DAY_MS = 86_400_000;

/** Did it arrive? Of the last day, in one sentence. */
export function answerInWords(outgoing: readonly OutgoingView[], nowMs: number): string {
  const asked = outgoing.filter(
    ({ number, writtenAtMs, phase }) =>
      number !== undefined && nowMs - writtenAtMs < DAY_MS && phase.kind !== 'cancelled',
  );
  if (asked.length === 0) return 'No message has gone out today.';
  const count = (kind: OutgoingView['phase']['kind']): number =>
    asked.filter(({ phase }) => phase.kind === kind).length;
  const open = asked.filter(isOpen).length;
  if (asked.length === 1) {
    const [one] = asked as [OutgoingView];
    const word = isOpen(one)
      ? 'is on the way'
      : one.phase.kind === 'no answer'
        ? 'had no answer'
        : one.phase.kind === 'expired'
          ? 'expired'
          : `was ${one.phase.kind}`;
    return `The message to ${one.to} ${word}.`;
  }
  const acknowledged = count('acknowledged');
  const parts = [
    `${acknowledged} of ${asked.length} messages ${acknowledged === 1 ? 'was' : 'were'} acknowledged`,
    ...(open === 0 ? [] : [`${open} ${open === 1 ? 'is' : 'are'} on the way`]),
    ...(count('no answer') === 0 ? [] : [`${count('no answer')} had no answer`]),
    ...(count('rejected') === 0 ? [] : [`${count('rejected')} rejected`]),
    ...(count('expired') === 0 ? [] : [`${count('expired')} expired`]),
  ];
  return `${parts.join(', ')}.`;
}
