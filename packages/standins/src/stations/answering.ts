import { encodeAck } from '@mistpeak/core/aprs/message';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { OWN_DESTINATION } from '@mistpeak/core/beacon/beacon';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { viewFrame } from '@mistpeak/core/stations/view';
import type { RadioChannel, RadioSet } from '../radio-channel/radio-channel.js';

const PATH = [
  { call: 'WIDE1-1', used: false },
  { call: 'WIDE2-1', used: false },
];

/** A set that acknowledges messages to it, each copy anew (APRS 1.0.1, "Message acknowledgement"). */
export function answering(channel: RadioChannel, call: string): RadioSet {
  const set: RadioSet = {
    name: call,
    hear: (raw) => {
      const view = viewFrame(raw);
      if (isMalformed(view)) return;
      const { message, type } = view.report ?? {};
      if (type !== 'message' || message?.addressee !== call || !message.number) return;
      const ack = fromLatin1(encodeAck(view.frame.source, message.number));
      channel.send(set, encodeFrame(uiFrame(call, OWN_DESTINATION, PATH, ack)));
    },
  };
  channel.attach(set);
  return set;
}
