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
/** What nobody acknowledged is said again (APRS 1.0.1, chapter 14, leaves the gap to each; common practice, no source). */
const SAY_AGAIN_MS = 25_000;
const SAID_AT_MOST = 5;

/**
 * A set that acknowledges messages to it, each try anew (APRS 1.0.1, "Message acknowledgement"); reply: what its operator
 * answers to a question, once for each and said again until it is acknowledged. say: something of his own, the same way.
 */
export function answering(
  channel: RadioChannel,
  clock: Clock,
  call: string,
  reply?: string,
): {
  readonly set: RadioSet;
  readonly end: () => void;
  readonly say: (to: string, text: string) => void;
} {
  const acknowledged = new Map<string, number>();
  /** What is yet to be said, by whom it goes to and its number. */
  const pending = new Map<string, () => void>();
  let replies = 0;
  const send = (info: string): void =>
    channel.send(set, encodeFrame(uiFrame(call, OWN_DESTINATION, PATH, fromLatin1(info))));
  const sayLater = (to: string, text: string, number: string, said = 0): void => {
    const key = `${to} ${number}`;
    pending.set(
      key,
      clock.after(said === 0 ? REPLY_AFTER_MS : SAY_AGAIN_MS, () => {
        pending.delete(key);
        send(encodeMessage(to, text, number));
        if (said + 1 < SAID_AT_MOST) sayLater(to, text, number, said + 1);
      }),
    );
  };
  const wasAcknowledged = (by: string, number: string): void => {
    pending.get(`${by} ${number}`)?.();
    pending.delete(`${by} ${number}`);
  };
  const set: RadioSet = {
    name: call,
    hear: (raw) => {
      const view = viewFrame(raw);
      if (isMalformed(view)) return;
      const { message, type } = view.report ?? {};
      if (message?.addressee !== call || !message.number) return;
      if (type === 'ack') wasAcknowledged(view.frame.source, message.number);
      if (type !== 'message') return;
      const { source } = view.frame;
      const key = `${source} ${message.number} ${message.text ?? ''}`;
      const before = acknowledged.get(key);
      if (before !== undefined && clock.upMs() - before < SAME_TRY_MS) return;
      acknowledged.set(key, clock.upMs());
      send(encodeAck(source, message.number));
      if (reply === undefined || before !== undefined || !message.text?.includes('?')) return;
      sayLater(source, reply, String(++replies));
    },
  };
  channel.attach(set);
  return {
    set,
    end: () => pending.forEach((cancel) => cancel()),
    say: (to, text) => sayLater(to, text, String(++replies)),
  };
}
