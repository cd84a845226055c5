import { parseAprs } from '@mistpeak/core/aprs/parse';
import { decodeFrame, encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { OWN_DESTINATION } from '@mistpeak/core/beacon/beacon';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { wayOf } from '@mistpeak/core/digipeating/way';
import { gateIn, gateOut, type HeardOf } from '@mistpeak/core/internet/gate';
import type { Clock } from '@mistpeak/link/clock';
import type { RadioChannel, RadioSet } from '../radio-channel/radio-channel.js';
import type { Hub, Port } from './hub.js';

const PATH = [{ call: 'WIDE2-1', used: false }];

/** A gate both ways by core's published rules: what it hears goes to the hub, messages for who is near go on the air. */
export function gate(channel: RadioChannel, clock: Clock, hub: Hub, own: RadioSet): RadioSet {
  const heard = new Map<string, { atUpMs: number; hops: number }>();
  const of = (call: string): HeardOf => {
    const one = heard.get(call);
    return one ? { radioAgeMs: clock.upMs() - one.atUpMs, radioHops: one.hops } : {};
  };
  const port: Port = {
    name: own.name,
    hears: (_, packet) => {
      const report = parseAprs(packet.info, packet.destination);
      const isForSomebody = ['message', 'ack', 'rej'].includes(report.type);
      const addressee = isForSomebody ? report.message?.addressee : undefined;
      const gated = gateOut(packet, { gate: own.name, addressee, of });
      if ('info' in gated)
        channel.send(set, encodeFrame(uiFrame(own.name, OWN_DESTINATION, PATH, fromLatin1(gated.info))));
    },
  };
  hub.join(port);
  const set: RadioSet = {
    name: own.name,
    hear: (raw) => {
      own.hear?.(raw);
      const frame = decodeFrame(raw);
      if (isMalformed(frame)) return;
      heard.set(frame.source, { atUpMs: clock.upMs(), hops: wayOf(frame.path).hops });
      const gated = gateIn(frame, { gate: own.name, isBothWays: true });
      if ('line' in gated) hub.pass(gated.line, port);
    },
  };
  channel.attach(set);
  return set;
}
