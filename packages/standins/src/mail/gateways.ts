import { toLatin1 } from '@mistpeak/core/bits/octets';
import type { Clock } from '@mistpeak/link/clock';
import { ConnectedEnd, type Conversation, type Line } from '../connected/connected-end.js';
import type { RadioChannel } from '../radio-channel/radio-channel.js';
import type { MailService } from './mail-service.js';

/** QH5COR-10 has its net in these hours, UTC, and takes no calls. */
const BUSY_FROM_HOUR = 17;
const BUSY_TO_HOUR = 22;

/** One mail gateway of the island; undefined: its set is on and nobody is at it. */
export function mailGateway(
  channel: RadioChannel,
  clock: Clock,
  service: MailService,
  call: string,
): ConnectedEnd | undefined {
  switch (call) {
    case 'QH5SAL-10':
      return undefined;
    case 'QH5QUI-10':
      return new ConnectedEnd(channel, clock, call, withoutService);
    case 'QH5COR-10':
      return new ConnectedEnd(channel, clock, call, (caller, line) =>
        isBusy(clock.nowMs()) ? busy(line) : answering(service, call, caller, line),
      );
    default:
      return new ConnectedEnd(channel, clock, call, (caller, line) => answering(service, call, caller, line));
  }
}

function answering(service: MailService, call: string, caller: string, line: Line): Conversation {
  let session: ReturnType<MailService['session']> | undefined;
  return {
    connected: () => {
      line.say(`Hollin mail by ${call}, a Mistpeak stand-in.`);
      session = service.session(call, caller, {
        say: (octets) => line.ask(toLatin1(octets)),
        hangUp: line.hangUp,
      });
    },
    data: (octets) => session?.hear(octets),
    confirmed: () => session?.moved(),
    line: () => undefined,
    ended: () => session?.lost(),
  };
}

function withoutService(_: string, { say, hangUp }: Line): Conversation {
  return {
    connected: () => {
      say(
        'Hollin mail by QH5QUI-10, a Mistpeak stand-in.',
        '*** The mail service is out of reach from here.',
      );
      hangUp();
    },
    line: () => undefined,
  };
}

function busy({ say, hangUp }: Line): Conversation {
  return {
    connected: () => {
      say('*** Busy with the evening net until 22 UTC.');
      hangUp();
    },
    line: () => undefined,
  };
}

const isBusy = (nowMs: number): boolean => {
  const hour = new Date(nowMs).getUTCHours();
  return hour >= BUSY_FROM_HOUR && hour < BUSY_TO_HOUR;
};
