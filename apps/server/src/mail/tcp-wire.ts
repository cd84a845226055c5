import type { ByteLink } from '@mistpeak/link/byte-link';
import type { Clock } from '@mistpeak/link/clock';
import { failureOf } from '@mistpeak/link/failure';
import { openTcp } from '../adapters/tcp.js';
import type { MailWire, WireEvents } from './wire.js';

const OPENING_LIMIT_MS = 20_000;
/** Who was told good-bye and does not hang up himself is left. */
const LEAVES_WITHIN_MS = 3000;
/** Our stand-ins say this in their first words. */
const STAND_IN = /\bMistpeak stand-in\b/;

export interface TcpCall {
  readonly host: string;
  readonly port: number;
  /** A demo call says nothing before the far end has said that it is a stand-in. */
  readonly isDemo: boolean;
}

/** Connects to a service, or to a data port that is one already. */
export function callByTcp({ host, port, isDemo }: TcpCall, clock: Clock, events: WireEvents): MailWire {
  const giveUp = new AbortController();
  const cancel = clock.after(OPENING_LIMIT_MS, () => giveUp.abort());
  let link: ByteLink | undefined;
  let isOver = false;
  let said = 0;
  let seen = '';
  let mayTalk = !isDemo;
  const end = (...why: Parameters<WireEvents['ended']>): void => {
    if (isOver) return;
    isOver = true;
    cancel();
    // What was said last still goes out of an open connection.
    if (link) void link.close();
    else giveUp.abort();
    events.ended(...why);
  };
  const read = async (): Promise<void> => {
    link = await openTcp(host, port, giveUp.signal);
    cancel();
    events.connected();
    for await (const octets of link.receive) {
      if (isOver) return;
      seen = (seen + Buffer.from(octets).toString('latin1')).slice(-2000);
      mayTalk ||= STAND_IN.test(seen);
      events.data(octets);
    }
    end('ended', `${host} has closed the connection`);
  };
  read().catch((error: unknown) => {
    const { failure } = failureOf(error);
    if (link) end('ended', `the connection to ${host} broke (${failure})`);
    else
      end(
        failure === 'refused' ? 'refused' : 'no answer',
        `${host}, port ${port}, does not answer (${failure})`,
      );
  });
  return {
    say: (octets) => {
      if (!mayTalk)
        return end(
          'demo call',
          'a demo call talks to stand-ins only, and the far end has not said that it is one',
        );
      link?.send(octets).then(
        () => {
          said += octets.length;
          if (!isOver) events.confirmed(said);
        },
        () => end('ended', `the connection to ${host} broke`),
      );
    },
    hangUp: () => void clock.after(LEAVES_WITHIN_MS, () => end('ended', 'ended here')),
    drop: () => end('ended', 'ended here'),
  };
}
