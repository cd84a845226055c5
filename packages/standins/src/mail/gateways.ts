import { toLatin1 } from '@mistpeak/core/bits/octets';
import type { Clock } from '@mistpeak/link/clock';
import type { GatewayManner } from '@mistpeak/core/drills/practice';
import { ConnectedEnd, type Conversation, type Line } from '../connected/connected-end.js';
import type { RadioChannel } from '../radio-channel/radio-channel.js';
import type { MailService } from './mail-service.js';

/** QH5COR-10 has its net in these hours, UTC, and takes no calls. */
const BUSY_FROM_HOUR = 17;
const BUSY_TO_HOUR = 22;

/** How it is with those that do not simply serve; `silent`: the set is on and nobody is at it. */
const USUAL: Readonly<Record<string, GatewayManner | 'busy in the evening'>> = {
  'QH5SAL-10': 'silent',
  'QH5QUI-10': 'without service',
  'QH5COR-10': 'busy in the evening',
};

/** One mail gateway of the island. told: how it is to behave now, where that is not as usual. */
export function mailGateway(
  channel: RadioChannel,
  clock: Clock,
  service: MailService,
  call: string,
  told: () => GatewayManner | undefined,
): ConnectedEnd {
  const manner = (): string => told() ?? USUAL[call] ?? 'serves';
  const answer = (caller: string, line: Line): Conversation => {
    if (manner() === 'without service') return withoutService(call, line);
    const isBusyNow = manner() === 'busy in the evening' && isBusy(clock.nowMs());
    return isBusyNow ? busy(line) : answering(service, call, caller, line);
  };
  return new ConnectedEnd(channel, clock, call, answer, () => manner() !== 'silent');
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

function withoutService(call: string, { say, hangUp }: Line): Conversation {
  return {
    connected: () => {
      say(`Hollin mail by ${call}, a Mistpeak stand-in.`, '*** The mail service is out of reach from here.');
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
