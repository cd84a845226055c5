import { connect, createServer, type Socket } from 'node:net';
import { Bonjour } from 'bonjour-service';
import type { LinkView } from '@mistpeak/contract/link';
import type { SharingClientView, SharingSettings, SharingView } from '@mistpeak/contract/sharing';
import { KISS_SERVICE } from '../adapters/service-announcer.js';
import { freePort } from '../testing/free-port.js';
import { KissPeer, STATUS_HEX } from '../testing/kiss-peer.js';
import {
  linkTo,
  makeDatabase,
  OPERATOR,
  ServerUp,
  TEST_CALL,
  until,
  type Answer,
} from '../testing/server-up.js';

/** To APZMPK (command), from 1X9TST-SSID, UI, F0: the address octets are the characters shifted by one (AX.25 2.2, 3.12). */
const ownFrame = (ssid: number, info: string): string =>
  `82a0b49aa096e062b072a8a6a8${(0x60 | (ssid << 1) | 1).toString(16)}03f0${Buffer.from(info).toString('hex')}`;
/** The same from a station that is not ours. */
const FOREIGN = `82a0b49aa096e062b072b2b2b26103f0${Buffer.from('>no').toString('hex')}`;
/** From that station, repeated by 1X9TST-2 (H bit set): ours answers for it. */
const REPEATED_BY_US = `82a0b49aa096e062b072b2b2b26062b072a8a6a8e503f0${Buffer.from('>by us').toString('hex')}`;
/** That frame as it was heard. */
const HEARD_BEFORE = `82a0b49aa096e062b072b2b2b26103f0${Buffer.from('>by us').toString('hex')}`;
const data = (hex: string): string => `c000${hex}c0`;

/** Another program at the share: octets in hex, no codec of ours. */
class Program {
  received = '';
  isClosed = false;
  private constructor(readonly socket: Socket) {
    socket.on('data', (octets: Buffer) => (this.received += octets.toString('hex')));
    socket.on('error', () => socket.destroy());
    socket.on('close', () => (this.isClosed = true));
  }

  static at(port: number): Promise<Program> {
    return new Promise((resolve, reject) => {
      const socket = connect(port, '127.0.0.1', () => resolve(new Program(socket)));
      socket.once('error', reject);
    });
  }

  send(hex: string): void {
    this.socket.write(Buffer.from(hex, 'hex'));
  }

  got(hex: string): Promise<true> {
    return until(`${hex} at a program`, () => this.received.includes(hex) || undefined);
  }
}

let databaseUrl: string;
let server: ServerUp;
let peer: KissPeer;
let link: LinkView;
let port: number;

let now: SharingSettings;
/** Says the settings, changed or as they were. */
function share(changes: Partial<SharingSettings> = {}): Promise<Answer<SharingView>> {
  now = { ...now, ...changes };
  return server.ask<SharingView>('PUT', `/links/${link.id}/sharing`, now);
}
/** The answer to the same settings is how it stands. */
const clients = async (): Promise<readonly SharingClientView[]> => (await share()).body.clients;
const clientFit = (fits: (client: SharingClientView) => boolean): Promise<SharingClientView> =>
  until('a client that fits', async () => (await clients()).find(fits));
const allow = (id: string, mayTransmit = true): Promise<Answer<SharingView>> =>
  server.ask<SharingView>('PUT', `/links/${link.id}/sharing/clients/${id}`, { mayTransmit });

beforeAll(async () => {
  databaseUrl = await makeDatabase();
  server = await ServerUp.on(databaseUrl);
  peer = await KissPeer.listen();
  port = await freePort();
  now = {
    isOn: true,
    port,
    reach: 'loopback',
    isReachConfirmed: false,
    isAnnounced: false,
    newMayTransmit: false,
  };
  await server.ask('PUT', '/operator', OPERATOR);
  // Fast on the air, so that twenty frames do not take a minute.
  const fast = { ...linkTo(peer.port), airRate: 9600, txDelayMs: 0, txTailMs: 0 };
  link = (await server.ask<LinkView>('POST', '/links', fast)).body;
  await server.ask('POST', `/links/${link.id}/open`);
  await peer.got('c00500c0');
});

afterAll(async () => {
  await server.close();
  await peer.close();
});

describe('sharing', () => {
  it('is off until it is switched on', async () => {
    await expect(Program.at(port)).rejects.toMatchObject({ code: 'ECONNREFUSED' });
    const page = server.follow();
    await page.find('snapshot');
    expect(await share()).toMatchObject({ status: 200, body: { isListening: true, clients: [] } });
    // Every page that is open is told, and told again when somebody comes.
    await page.find('sharing', ({ isListening }) => isListening);
    const program = await Program.at(port);
    await page.find('sharing', ({ clients }) => clients.length === 1);
    program.socket.destroy();
    const last = () => page.events.findLast(({ kind }) => kind === 'sharing')?.data as SharingView;
    await until('nobody', () => last().clients.length === 0 || undefined);
    page.close();
  });

  it('gives every program what was heard, octet by octet, and nothing else', async () => {
    const programs = [await Program.at(port), await Program.at(port)];
    await until('both', async () => (await clients()).length === 2 || undefined);
    // A stand-in’s word and other SetHardware are for us alone.
    peer.send(`c00601c0${STATUS_HEX}`);
    for (const program of programs) {
      await program.got(STATUS_HEX);
      expect(program.received).toBe(STATUS_HEX);
    }
    expect(await clients()).toMatchObject([{ heard: 1 }, { heard: 1 }]);
    for (const { socket } of programs) socket.destroy();
    await until('none', async () => (await clients()).length === 0 || undefined);
  });

  it('hands on no frame of a program that only receives, and none past the lock', async () => {
    const program = await Program.at(port);
    const { id } = await clientFit(() => true);
    program.send(data(ownFrame(5, '>early')));
    await clientFit(({ refused }) => refused['receive-only'] === 1);
    await allow(id);
    program.send(data(ownFrame(5, '>locked')));
    await clientFit(({ refused }) => refused['transmitter locked'] === 1);
    await server.ask('PUT', `/links/${link.id}/lock`, { call: `${TEST_CALL}-7` });
    program.send(data(FOREIGN));
    await clientFit(({ refused }) => refused['not an own station'] === 1);
    program.send(data('0102'));
    await clientFit(({ refused }) => refused['not AX.25'] === 1);
    expect(peer.hasGot('c000')).toBe(false);
    program.send(data(ownFrame(5, '>now')));
    await peer.got(data(ownFrame(5, '>now')));
    // A repeater that is ours may repeat what was heard here, and invents nobody's packets.
    program.send(data(REPEATED_BY_US));
    await clientFit(({ refused }) => refused['not heard here'] === 1);
    expect(peer.hasGot(REPEATED_BY_US)).toBe(false);
    peer.send(data(HEARD_BEFORE));
    await program.got(data(HEARD_BEFORE));
    program.send(data(REPEATED_BY_US));
    await peer.got(data(REPEATED_BY_US));
    program.socket.destroy();
  });

  it('lets no program set the TNC: what it asked is shown, nothing reaches the wire', async () => {
    const before = peer.everything();
    const program = await Program.at(port);
    // TXDELAY 500 ms, persistence 255, SetHardware, leave KISS.
    program.send('c00132c0c002ffc0c0060102c0c0ffc0');
    expect(await clientFit(({ asked }) => asked.persistence === 255)).toMatchObject({
      asked: { txdelay: 0x32, persistence: 255 },
      refused: { 'not for the TNC': 2 },
    });
    expect(peer.everything()).toBe(before);
    program.socket.destroy();
    await until('none', async () => (await clients()).length === 0 || undefined);
  });

  it('sends demo calls to no real TNC', async () => {
    await share({ newMayTransmit: true });
    const program = await Program.at(port);
    const fromDemo = '82a0b49aa096e0a2906e86a8867303f03e78';
    peer.send(data(fromDemo));
    await program.got(data(fromDemo));
    // Repeated by us, from QH7CTC-9 (51 48 37 43 54 43 shifted).
    program.send(data(`82a0b49aa096e0a2906e86a8867262b072a8a6a8e503f03e78`));
    await clientFit(({ refused }) => refused['demo call on a real link'] === 1);
    expect(peer.hasGot('a2906e86a886')).toBe(false);
    program.socket.destroy();
    await until('none', async () => (await clients()).length === 0 || undefined);
  });
});

describe('twenty programs, one of them hostile', () => {
  it('the others hear all and are sent in their turn', async () => {
    await share({ newMayTransmit: true });
    const hostile = await Program.at(port);
    const others = await Promise.all(Array.from({ length: 19 }, () => Program.at(port)));
    await until('twenty', async () => (await clients()).length === 20 || undefined);
    // Garbage without end, broken escapes, an endless frame, parameters, and hundreds of good frames.
    const floodOnce = (): void => {
      hostile.send('db00db01c0c0db'.repeat(3000));
      hostile.send(`c000${'aa'.repeat(6000)}c0`);
      hostile.send(`c001ffc0${data(ownFrame(13, '>flood'))}`.repeat(100));
    };
    floodOnce();
    const flood = setInterval(floodOnce, 50);
    try {
      others.forEach((program, i) => program.send(data(ownFrame(i % 13, `>calm ${i}`))));
      peer.send(STATUS_HEX.repeat(10));
      for (const [i, program] of others.entries()) {
        await peer.got(data(ownFrame(i % 13, `>calm ${i}`)));
        await program.got(STATUS_HEX.repeat(10));
      }
      await until('the flood let go', () => hostile.isClosed || undefined);
    } finally {
      clearInterval(flood);
    }
    const seen = peer.everything();
    const lastCalm = Math.max(
      ...others.map((_, i) => seen.indexOf(Buffer.from(`>calm ${i}`).toString('hex'))),
    );
    const floodHex = Buffer.from('>flood').toString('hex');
    // While all wait, the flood gets no more than one turn in a round; two may have left before the last had connected.
    expect(seen.slice(0, lastCalm).split(floodHex).length - 1).toBeLessThanOrEqual(3);
    expect(seen).not.toContain('c001ffc0');
    expect((await share()).body).toMatchObject({ letGo: { flooded: 1, 'read nothing': 0 } });
    for (const { socket } of others) socket.destroy();
    await until('none', async () => (await clients()).length === 0 || undefined);
  });

  it('one that reads nothing is let go, and the rest hears on', async () => {
    const deaf = await Program.at(port);
    deaf.socket.pause();
    const other = await Program.at(port);
    await until('two', async () => (await clients()).length === 2 || undefined);
    // Frames of 3,900 octets of information until it is more than the sockets between hold.
    const long = data(`82a0b49aa096e09c60868298986f03f0${'55'.repeat(3900)}`);
    for (let i = 0; i < 100 && (await clients()).length === 2; i++) {
      peer.send(long.repeat(100));
      await until('all of it', () => other.received.length >= long.length * 100 * (i + 1) || undefined);
    }
    await until('one', async () => (await clients()).length === 1 || undefined);
    expect((await share()).body.letGo['read nothing']).toBe(1);
    other.socket.destroy();
  });
});

describe('where it listens', () => {
  it('a port that is taken is told, and another one taken', async () => {
    const taken = createServer();
    await new Promise<void>((resolve) => taken.listen(0, '127.0.0.1', resolve));
    const at = (taken.address() as { port: number }).port;
    expect(await share({ port: at })).toMatchObject({ status: 409, body: { reason: 'port-taken' } });
    await new Promise((resolve) => taken.close(resolve));
    expect(await share({ port: at })).toMatchObject({ status: 200, body: { isListening: true } });
    expect(await share({ port })).toMatchObject({ status: 200, body: { isListening: true } });
  });

  it('the network only when that is confirmed; announced by multicast DNS on wish', async () => {
    expect(await share({ reach: 'network' })).toMatchObject({
      status: 409,
      body: { reason: 'network-not-confirmed' },
    });
    const browser = new Bonjour({}, () => undefined);
    const found: number[] = [];
    browser.find({ type: KISS_SERVICE }, (service) => found.push(service.port));
    await share({ reach: 'network', isReachConfirmed: true, isAnnounced: true });
    await until('the announcement', () => found.includes(port) || undefined);
    await share({ reach: 'loopback', isReachConfirmed: false, isAnnounced: false });
    browser.destroy();
  });

  it('programs can be shown the door, and the switch shows it to all', async () => {
    const [one, two] = [await Program.at(port), await Program.at(port)];
    await until('two', async () => (await clients()).length === 2 || undefined);
    const [first] = await clients();
    await server.ask('DELETE', `/links/${link.id}/sharing/clients/${first?.id}`);
    await until('one gone', () => one.isClosed || undefined);
    await share({ isOn: false });
    await until('both gone', () => two.isClosed || undefined);
    expect(await allow('1')).toMatchObject({ status: 404 });
  });

  it('is on again after a restart, and ends with its link', async () => {
    await share({ isOn: true });
    await server.close();
    server = await ServerUp.on(databaseUrl);
    const program = await Program.at(port);
    await server.ask('DELETE', `/links/${link.id}`);
    await until('gone', () => program.isClosed || undefined);
    await expect(Program.at(port)).rejects.toMatchObject({ code: 'ECONNREFUSED' });
  });
});
