import { connect, type Socket } from 'node:net';
import { toLatin1 } from '@mistpeak/core/bits/octets';
import { pack } from '@mistpeak/core/lzhuf/container';
import { writeLetter } from '@mistpeak/core/mail/letter';
import { challengeAnswer } from '@mistpeak/core/mail/login';
import { packMessage } from '@mistpeak/core/mail/message';
import { encodeBlocks } from '@mistpeak/core/mail/block';
import { formatClosing, formatProposal } from '@mistpeak/core/mail/proposal';
import { seededDice } from '@mistpeak/core/network/dice';
import { ConnectedEnd } from '../connected/connected-end.js';
import { RadioChannel } from '../radio-channel/radio-channel.js';
import { systemClock } from '../world/system-clock.js';
import { VirtualClock } from '../world/virtual-clock.js';
import { ControlledRadio } from './controlled-radio.js';
import { mailGateway } from './gateways.js';
import { MailServer } from './mail-server.js';
import { MailService } from './mail-service.js';
import { ModemProgram } from './modem-program.js';

/** One call at the service, typed by hand. */
function visit(service: MailService, caller: string) {
  let said = '';
  let isOver = false;
  const session = service.session('QH5VEL-10', caller, {
    say: (octets) => void (said += toLatin1(octets)),
    hangUp: () => void (isOver = true),
  });
  const types = (text: string | Uint8Array): string => {
    said = '';
    session.hear(typeof text === 'string' ? Uint8Array.from(text, (sign) => sign.charCodeAt(0)) : text);
    return said;
  };
  return { greeting: said, types, isOver: () => isOver, leave: () => session.lost() };
}

const hello = (call: string, answer: string): string => `;FW: ${call}\r[Typed-1-B2FHM$]\r;PR: ${answer}\r`;

describe('the island’s mail service', () => {
  it('lets in who answers its challenge, announces what waits, and takes no wrong password', () => {
    const service = new MailService(systemClock, seededDice(1));
    const first = visit(service, 'QH4MPK-7');
    const challenge = /;PQ: (\d{8})\r/.exec(first.greeting)?.[1] as string;
    expect(first.greeting).toMatch(/^\[Hollin-1-B2FHM\$\]\r/);
    expect(first.types(`${hello('QH4MPK', challengeAnswer(challenge, 'Seabird'))}FF\r`)).toMatch(
      /^\*\*\* Secure login failed/,
    );
    first.leave();
    const again = visit(service, 'QH4MPK-7');
    const second = /;PQ: (\d{8})\r/.exec(again.greeting)?.[1] as string;
    expect(again.types(`${hello('QH4MPK', challengeAnswer(second, 'seabird'))}FF\r`)).toMatch(
      /;PM: QH4MPK \w{12} \d+ QH3PRT Soup until seven\r/,
    );
    again.leave();
  });

  it('answers the test address on the next connection, not on this one; an unknown account gets a password', () => {
    const service = new MailService(systemClock, seededDice(2));
    const first = visit(service, 'QH9NEW');
    expect(first.greeting).not.toMatch(';PQ');
    const octets = packMessage(
      writeLetter({
        mid: 'SELFTEST0001',
        dateMs: 0,
        from: 'QH9NEW',
        to: ['TEST'],
        cc: [],
        subject: 'Self-test T1ABCD',
        text: 'x',
        files: [],
        origin: 'QH9NEW',
        beyondLatin1: 'utf-8',
      }),
    );
    const packed = pack(octets);
    const line = formatProposal({ mid: 'SELFTEST0001', octets: octets.length, packedOctets: packed.length });
    expect(first.types(`;FW: QH9NEW\r[Typed-1-B2FHM$]\r${line}\r${formatClosing([line])}\r`)).toBe('FS +\r');
    const offered = first.types(encodeBlocks('t', packed, 0, 6));
    expect(offered).toMatch('SERVICE Your account');
    expect(offered).not.toMatch('Re: Self-test');
    expect(first.types('FS -\r')).toBe('');
    first.types('FF\r');
    expect(first.isOver()).toBe(true);
    expect(service.handedIn()).toEqual(['SELFTEST0001']);
    service.open('QH9NEW', 'changed');
    const next = visit(service, 'QH9NEW');
    const challenge = /;PQ: (\d{8})\r/.exec(next.greeting)?.[1] as string;
    expect(next.types(`${hello('QH9NEW', challengeAnswer(challenge, 'changed'))}FF\r`)).toMatch(
      'TEST Re: Self-test T1ABCD',
    );
    next.leave();
  });
});

it('gateways differ: one answers, one is busy in the evening, one has no service, one is silent', () => {
  for (const [hour, expected] of [
    [12, ['QH5VEL-10 [Hollin', 'QH5COR-10 [Hollin', 'QH5QUI-10 *** The mail service', 'QH5SAL-10 none']],
    [18, ['QH5VEL-10 [Hollin', 'QH5COR-10 *** Busy', 'QH5QUI-10 *** The mail service', 'QH5SAL-10 none']],
  ] as const) {
    const clock = new VirtualClock(Date.UTC(2026, 4, 3, hour));
    const channel = new RadioChannel(clock, seededDice(1), () => -70);
    const service = new MailService(clock, seededDice(1));
    const found = expected.map((one) => {
      const call = one.split(' ')[0] as string;
      const gateway = mailGateway(channel, clock, service, call, () => undefined);
      const me = new ConnectedEnd(channel, clock, 'QH4MPK', undefined);
      const lines: string[] = [];
      me.connect(call, [], () => ({ line: (text) => void lines.push(text) }), 5);
      clock.advance(60_000);
      me.end();
      gateway.end();
      const told = lines.find((line) => /^\[|^\*\*\*/.test(line)) ?? 'none';
      return `${call} ${told.slice(0, one.length - call.length - 1)}`;
    });
    channel.end();
    expect(found).toEqual(expected);
  }
});

/** What comes over a socket until it contains that. */
function until(socket: Socket, words: string): Promise<string> {
  return new Promise((resolve) => {
    let text = '';
    const hear = (octets: Buffer): void => {
      text += octets.toString('latin1');
      if (!text.includes(words)) return;
      socket.off('data', hear);
      resolve(text);
    };
    socket.on('data', hear);
  });
}

const socketTo = (port: number): Socket => connect(port, '127.0.0.1');

it('by TCP the service says what it is, asks for call and word, and speaks as its gateways', async () => {
  const server = new MailServer(new MailService(systemClock, seededDice(1)));
  const socket = socketTo(await server.listen(0));
  expect(await until(socket, 'Callsign :')).toMatch('Mistpeak stand-in');
  socket.write('qh4mpk\r');
  await until(socket, 'Password :');
  socket.write('any\r');
  expect(await until(socket, '>\r')).toMatch('; QH4MPK DE HOLLIN');
  socket.destroy();
  await server.close();
});

it('a modem program has the neutral words: the call read back, linked with a gateway, octets both ways, let go', async () => {
  const channel = new RadioChannel(systemClock, seededDice(1), () => -70);
  const service = new MailService(systemClock, seededDice(1));
  const gateway = mailGateway(channel, systemClock, service, 'QH5VEL-10', () => undefined);
  const program = new ModemProgram(channel, systemClock, () => undefined);
  const ports = await program.listen(0, 0);
  const [command, data] = [socketTo(ports.command), socketTo(ports.data)];
  expect(await until(command, 'CHANNEL CLEAR')).toMatch('Mistpeak stand-in');
  command.write('OWN QH4MPK-7\rOWN?\r');
  await until(command, 'OWN IS QH4MPK-7\r');
  command.write('HELLO\r');
  await until(command, 'NO such word: HELLO');
  command.write('LINK QH4MPK-7 QH5VEL-10 5\r');
  await until(command, 'LINKED QH5VEL-10\r');
  await until(data, 'QH5VEL-10>');
  const waiting = until(command, 'WAITING 0\r');
  data.write('; hello\r');
  expect(await waiting).toMatch('WAITING 8\r');
  command.write('UNLINK\r');
  await until(command, 'UNLINKED\r');
  command.destroy();
  data.destroy();
  await program.close();
  gateway?.end();
  channel.end();
});

it('a radio answers for its first band, whichever one a command has set', async () => {
  for (const [band, hz] of [
    ['A', 144_850_000],
    ['B', 144_800_000],
  ] as const) {
    const radio = new ControlledRadio(band);
    const socket = socketTo(await radio.listen(0));
    socket.write('FREQ 0144850000\rFREQ?\r');
    await until(socket, `FREQ ${hz} BAND A\r`);
    expect(radio.frequencyHz()).toBe(hz);
    socket.destroy();
    await radio.close();
  }
});
