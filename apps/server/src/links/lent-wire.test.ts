import { WebSocket } from 'ws';
import type { LinkView } from '@mistpeak/contract/link';
import { STATUS_HEX } from '../testing/kiss-peer.js';
import { linkTo, makeDatabase, ServerUp, until, type Page } from '../testing/server-up.js';

let server: ServerUp;
let page: Page;
let link: LinkView;

/** A page that lends a device: octets in hex. */
class Lender {
  received = '';
  closedWith: number | undefined;
  readonly socket: WebSocket;

  /** open: by a click of the operator; else a page that comes back by itself. */
  constructor(linkId: string, headers: Record<string, string> = {}, open = true) {
    this.socket = new WebSocket(
      `ws://127.0.0.1:${server.port}/api/v1/wire?link=${linkId}${open ? '&open' : ''}`,
      { headers },
    );
    this.socket.on('message', (data: Buffer) => (this.received += data.toString('hex')));
    this.socket.on('close', (code) => (this.closedWith = code));
    this.socket.on('error', () => (this.closedWith ??= 0));
  }

  send(hex: string): void {
    this.socket.send(Buffer.from(hex, 'hex'));
  }

  got(hex: string): Promise<true> {
    return until(`${hex} at the page`, () => this.received.includes(hex) || undefined);
  }

  closed(): Promise<number> {
    return until('the end', () => this.closedWith);
  }
}

beforeAll(async () => {
  server = await ServerUp.on(await makeDatabase());
  page = server.follow();
  const { host: _host, port: _port, ...rest } = linkTo(1);
  const settings = { ...rest, kind: 'page-serial', speed: 9600 };
  link = (await server.ask<LinkView>('POST', '/links', settings)).body;
});
afterAll(async () => {
  page.close();
  await server.close();
});

const phase = (wanted: string, more: Partial<LinkView> = {}): Promise<LinkView> => {
  const from = page.events.length;
  return until(`phase ${wanted}`, () => {
    const found = page.events
      .slice(Math.max(0, from - 3))
      .filter((event) => event.kind === 'link')
      .map(({ data }) => data)
      .filter((view) => view.id === link.id && view.phase === wanted);
    return found.find((view) => Object.entries(more).every(([key, value]) => view[key as 'phase'] === value));
  });
};

describe('a link whose device is at a browser', () => {
  it('says that no page lends it', async () => {
    await server.ask('POST', `/links/${link.id}/open`);
    expect(await phase('failed')).toMatchObject({ failure: 'page-away' });
  });

  it('opens as soon as a page brings it: parameters go out, frames come in', async () => {
    const lender = new Lender(link.id);
    await lender.got('c0011ec0c0023fc0c0030ac0c00403c0c00500c0');
    // Cut in the middle, as USB does.
    lender.send(STATUS_HEX.slice(0, 21 * 2));
    lender.send(STATUS_HEX.slice(21 * 2));
    await page.find('frame', ({ linkId, rawHex }) => linkId === link.id && STATUS_HEX.includes(rawHex));
    // Text is no octet of the device.
    lender.socket.send('hello');
    lender.socket.close();
    expect(await phase('failed')).toMatchObject({ failure: 'page-away' });
  });

  it('takes the page that came last, and tells a device that went away', async () => {
    const first = new Lender(link.id);
    await first.got('c00500c0');
    const second = new Lender(link.id);
    await second.got('c00500c0');
    expect(await first.closed()).toBe(4409);
    second.socket.close(4410);
    expect(await phase('failed', { failure: 'unplugged' })).toBeDefined();
    const third = new Lender(link.id);
    await third.got('c00500c0');
    third.socket.close(4411);
    expect(await phase('failed', { failure: 'page-away' })).toBeDefined();
  });

  it('is closed by the operator', async () => {
    const lender = new Lender(link.id);
    await lender.got('c00500c0');
    await server.ask('POST', `/links/${link.id}/close`);
    expect(await lender.closed()).toBe(1005);
    expect(await phase('closed')).toBeDefined();
    // A page that comes back by itself does not undo that.
    expect(await new Lender(link.id, {}, false).closed()).toBe(4404);
    await server.ask('POST', `/links/${link.id}/open`);
    await new Lender(link.id, {}, false).got('c00500c0');
    await server.ask('POST', `/links/${link.id}/close`);
  });

  it.each([
    ['of no link', () => new Lender('00000000-0000-4000-8000-000000000000')],
    ['with a broken name', () => new Lender("x' OR 1")],
    ['from a foreign page', () => new Lender(link.id, { origin: 'http://elsewhere.test' })],
  ])('takes no device %s', async (_, lender) => {
    expect(await lender().closed()).toBeDefined();
  });

  it('is no link over the network', async () => {
    const { body } = await server.ask<LinkView>('POST', '/links', linkTo(1));
    expect(await new Lender(body.id).closed()).toBe(4404);
  });

  it('takes no device from a watcher', async () => {
    await server.ask('PUT', '/access/passwords/watcher', { password: 'only looking' });
    const login = await fetch(`http://127.0.0.1:${server.port}/api/v1/access/login`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ password: 'only looking' }),
    });
    const cookie = (login.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
    // Refused in the upgrade: no octet of the device is read.
    expect([0, 1006]).toContain(await new Lender(link.id, { cookie }).closed());
  });
});
