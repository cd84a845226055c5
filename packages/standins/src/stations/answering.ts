import { encodeAck, encodeMessage } from '@mistpeak/core/aprs/message';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { OWN_DESTINATION } from '@mistpeak/core/beacon/beacon';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { viewFrame } from '@mistpeak/core/stations/view';
import type { Clock } from '@mistpeak/link/clock';
import type { RadioChannel, RadioSet } from '../radio-channel/radio-channel.js';

const PATH = [
  { call: 'WIDE1-1', used: false },
  { call: 'WIDE2-1', used: false },
];
/** Copies of one try that come by several digipeaters are acknowledged once (common practice, no source). */
const SAME_TRY_MS = 5000;
/** Somebody has to read and to type. */
const REPLY_AFTER_MS = 12_000;

/**
 * A set that acknowledges messages to it, each try anew (APRS 1.0.1, "Message acknowledgement"); reply: what its operator
 * answers to a question, once for each.
 */
export function answering(
  channel: RadioChannel,
  clock: Clock,
  call: string,
  reply?: string,
): { readonly set: RadioSet; readonly end: () => void } {
  const acknowledged = new Map<string, number>();
  const pending = new Set<() => void>();
  let replies = 0;
  const send = (info: string): void =>
    channel.send(set, encodeFrame(uiFrame(call, OWN_DESTINATION, PATH, fromLatin1(info))));
  const set: RadioSet = {
    name: call,
    hear: (raw) => {
      const view = viewFrame(raw);
      if (isMalformed(view)) return;
      const { message, type } = view.report ?? {};
      if (type !== 'message' || message?.addressee !== call || !message.number) return;
      const { source } = view.frame;
      const key = `${source} ${message.number} ${message.text ?? ''}`;
      const before = acknowledged.get(key);
      if (before !== undefined && clock.upMs() - before < SAME_TRY_MS) return;
      acknowledged.set(key, clock.upMs());
      send(encodeAck(source, message.number));
      if (reply === undefined || before !== undefined || !message.text?.includes('?')) return;
      const number = String(++replies);
      const cancel = clock.after(REPLY_AFTER_MS, () => {
        pending.delete(cancel);
        send(encodeMessage(source, reply, number));
      });
      pending.add(cancel);
    },
  };
  channel.attach(set);
  return { set, end: () => pending.forEach((cancel) => cancel()) };
}
