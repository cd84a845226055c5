import { randomUUID } from 'node:crypto';
import { BACK_FOR_MS } from '@mistpeak/contract/removals';
import type { MailboxView } from '@mistpeak/contract/mailbox';
import type { SessionView } from '@mistpeak/contract/sessions';
import type { Ax25Station } from '../testing/ax25-station.js';
import { CallingBench, ME } from '../testing/calling-bench.js';
import { until } from '../testing/server-up.js';
import { CallerLines } from './callers.js';

const rig = new CallingBench();
const { bench, clock } = rig;
const BOX = `${ME}-1`;
const RULES = {
  isOn: true,
  ssid: 1,
  allowsAutomatic: true,
  access: 'open',
  listed: [],
  readers: 'addressee',
  greeting: 'Grüße',
  information: '',
  mostLetterOctets: 4000,
  memoryOctets: 64_000,
  visitMinutes: 30,
  idleMinutes: 5,
  callsAnHour: 3,
  announces: true,
};

const view = async (): Promise<MailboxView> => (await bench.server.ask<MailboxView>('GET', '/mailbox')).body;
const rules = (more: object = {}): Promise<{ status: number; body: Record<string, unknown> }> =>
  bench.server.ask('PUT', '/mailbox/settings', { ...RULES, linkId: bench.link.id, ...more });

/** Plays a caller's end: acknowledges what comes, and says lines. */
class Caller {
  readonly far: Ax25Station;
  private ns = 0;
  private nr = 0;
  said = '';

  constructor(call: string) {
    this.far = rig.station(call, BOX);
  }

  async connects(): Promise<void> {
    this.ns = 0;
    this.nr = 0;
    this.far.sabm();
    await this.far.expect('UA F');
  }

  types(text: string): void {
    this.far.i(this.ns++ & 7, this.nr, text);
  }

  /** Reads on until that stands there. */
  async hears(text: string | RegExp): Promise<string> {
    const isThere = (): boolean =>
      typeof text === 'string' ? this.said.includes(text) : text.test(this.said);
    while (!isThere()) {
      const words = await this.far.next();
      const [, ns, info] = /^I (\d) \d(?: P)?:([^]*)$/.exec(words) ?? [];
      if (/^RR \d P$/.test(words)) this.far.supervisory('RR', this.nr, 'response', true);
      if (ns === undefined) continue;
      this.said += info;
      this.nr = (Number(ns) + 1) & 7;
      this.far.supervisory('RR', this.nr);
    }
    const said = this.said;
    this.said = '';
    return said;
  }

  leaves(): void {
    this.far.disc();
  }
}

const PROMPT = `${BOX} (L,R,S,K,B,I,J,?)>`;

describe('whether it takes calls', () => {
  it('not before it is switched on, with consent, a link, and an armed transmitter', async () => {
    expect((await view()).closedBecause).toBe('it is switched off');
    expect((await rules({ allowsAutomatic: false })).body).toMatchObject({ field: 'allowsAutomatic' });
    expect((await rules({ linkId: undefined })).body).toMatchObject({ field: 'linkId' });
    expect((await rules({ linkId: randomUUID() })).status).toBe(404);
    expect((await rules({ ssid: 16 })).body).toMatchObject({ field: 'ssid' });
    expect((await rules()).status).toBe(200);
    expect((await view()).closedBecause).toBe('the transmitter of its link is locked');
    const far = rig.station('1X9CLA-7', BOX);
    far.sabm();
    await rig.arm();
    expect((await view()).closedBecause).toBeUndefined();
    // While it was locked nobody was answered.
    expect(far.heard()).toEqual([]);
  });

  it('a form that began with another version is refused', async () => {
    const { version } = (await view()).settings;
    expect((await rules({ version: version - 1 })).status).toBe(409);
    expect((await rules({ version })).status).toBe(200);
  });
});

describe('a caller', () => {
  it('is greeted, leaves a message octet by octet, and the operator reads it without radio', async () => {
    const caller = new Caller('1X9CLA-7');
    await caller.connects();
    const hello = await caller.hears(PROMPT);
    expect(hello).toMatch(`Mailbox ${BOX}. Good day, 1X9CLA-7.`);
    expect(Buffer.from(hello, 'latin1').toString()).toMatch('Grüße');
    caller.types(`S ${ME}\r`);
    await caller.hears('Subject of your message');
    caller.types('te');
    caller.types('rns\r');
    await caller.hears('/EX or Ctrl-Z');
    caller.types('41 \xe9\x00\r\n');
    caller.types('two\x1a');
    await caller.hears(`Kept for ${ME}.`);
    const [letter] = (await view()).letters;
    expect(letter).toMatchObject({
      number: 1,
      from: '1X9CLA',
      to: ME,
      subject: 'terns',
      text: '41 é\x00\ntwo',
      isRead: false,
    });
    await bench.server.ask('PUT', '/mailbox/letters/1/read');
    expect((await view()).letters[0]?.isRead).toBe(true);
    caller.types('B\r');
    // The good-bye arrives before the link is let go.
    await caller.hears(`73 from ${BOX}.`);
    await caller.far.expect('DISC P');
    caller.far.ua();
    const sessions = bench.server.follow();
    const { sessions: all } = await sessions.find('snapshot');
    sessions.close();
    expect(all.at(-1)).toMatchObject({
      own: BOX,
      peer: '1X9CLA-7',
      calledBy: 'them',
      purpose: 'mailbox',
    } satisfies Partial<SessionView>);
  });

  it('gets what the operator left, deletes it, and it is gone; numbers are never given twice', async () => {
    const id = randomUUID();
    const write = (): Promise<Response> =>
      fetch(`http://127.0.0.1:${bench.server.port}/api/v1/mailbox/letters`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'command-id': id },
        body: JSON.stringify({ to: '1x9cla', subject: 'soup', text: 'at 7\r\nbring bowls' }),
      });
    await Promise.all([write(), write()]);
    expect((await view()).letters.map(({ number, to }) => `${number} ${to}`)).toEqual([
      `1 ${ME}`,
      '2 1X9CLA',
    ]);
    const caller = new Caller('1X9CLA');
    await caller.connects();
    expect(await caller.hears(PROMPT)).toMatch('1 unread for you');
    caller.types('R 2\r');
    expect(await caller.hears(PROMPT)).toMatch('at 7\rbring bowls\r-- end of message 2');
    expect((await view()).letters[1]?.isRead).toBe(true);
    caller.types('J\r');
    expect(await caller.hears(PROMPT)).toMatch(/^1X9CLA {5}\d\d:\d\d UTC/);
    caller.types('K 2\r');
    await caller.hears('is deleted');
    caller.leaves();
    await until('the deletion', async () => (await view()).letters.length === 1);
    await rig.restart();
    await rig.arm();
    const { letters } = await view();
    expect(letters.map(({ number }) => number)).toEqual([1]);
    expect(
      (await bench.server.ask('POST', '/mailbox/letters', { to: 'ALL', subject: 'x', text: 'y' })).body,
    ).toMatchObject({ number: 3 });
    expect(
      (await bench.server.ask('POST', '/mailbox/letters', { to: 'A-1', subject: 'x', text: 'y' })).body,
    ).toMatchObject({ field: 'to' });
  });

  it('who is cut off in mid-text has left no message; what there was is kept as that', async () => {
    const caller = new Caller('1X9CLB');
    await caller.connects();
    await caller.hears(PROMPT);
    caller.types('S ALL\rrain\rit ra');
    caller.types('ins\r');
    await caller.hears('/EX or Ctrl-Z');
    caller.leaves();
    const { halfReceived, letters } = await until('the half', async () => {
      const now = await view();
      return now.halfReceived.length > 0 ? now : undefined;
    });
    expect(halfReceived).toMatchObject([{ from: '1X9CLB', to: 'ALL', subject: 'rain', text: 'it rains' }]);
    expect(letters.some(({ subject }) => subject === 'rain')).toBe(false);
    await rig.restart();
    await rig.arm();
    expect((await view()).halfReceived).toHaveLength(1);
    await bench.server.ask('DELETE', `/mailbox/half/${halfReceived[0]?.id}`);
    expect((await view()).halfReceived).toEqual([]);
  });

  it('over a digipeater has the longer timers of that way; cut off by a stop, his end is let go as the mailbox', async () => {
    const viewOf = async (): Promise<SessionView | undefined> => {
      const page = bench.server.follow();
      const { sessions } = await page.find('snapshot');
      page.close();
      return sessions.findLast(({ peer }) => peer === '1X9CLE');
    };
    const far = rig.station('1X9CLE', BOX, ['1X9DIG']);
    far.sabm();
    await far.expect('UA F');
    const { parameters } = await until('the session', viewOf);
    // common practice, no source: 3 s, scaled by 2n + 1 for n digipeaters
    expect(parameters.t1Ms).toBeGreaterThanOrEqual(9000);
    await rig.restart();
    await rig.arm();
    await far.waitFor('DISC P');
    far.ua();
  });

  it('who calls too often is told and let go; an idle one too', async () => {
    const once = new Caller('1X9CLC');
    await once.connects();
    await once.hears(PROMPT);
    clock.pass(5 * 60_000);
    await once.hears('Nothing came for a while.');
    await once.far.waitFor('DISC P');
    once.far.ua();
    for (let i = 0; i < 2; i++) {
      await once.connects();
      await once.hears(PROMPT);
      once.leaves();
      await once.far.waitFor('UA F');
    }
    await once.connects();
    await once.hears('You have called 3 times within the hour');
    await once.far.waitFor('DISC P');
    once.far.ua();
    clock.pass(3_600_000);
    await rig.arm();
    await once.connects();
    await once.hears(PROMPT);
    once.leaves();
  });

  it('of another link, another SSID, or with the mailbox off is not taken', async () => {
    await rules({ isOn: false });
    const far = rig.station('1X9CLD', BOX);
    far.sabm();
    const armed = rig.station('1X9CLD', ME);
    armed.sabm();
    await armed.expect('DM F');
    expect(far.heard()).toEqual([]);
    await rules();
  });
});

it('what the operator removes can be had back for a minute', async () => {
  await bench.server.ask('DELETE', '/mailbox/letters/1');
  expect((await view()).letters.map(({ number }) => number)).toEqual([3]);
  const page = bench.server.follow();
  const { removals } = await page.find('snapshot');
  page.close();
  expect(removals.map(({ words }) => words)).toEqual(['the letter from 1X9CLA, “terns”']);
  await bench.server.ask('POST', `/removals/${removals[0]?.id}/back`);
  expect((await view()).letters.map(({ number }) => number)).toEqual([1, 3]);
  await bench.server.ask('DELETE', '/mailbox/letters/1');
  clock.pass(BACK_FOR_MS);
  await until(
    'it to be gone',
    async () => (await bench.server.ask('PUT', '/mailbox/letters/1/read')).status === 404,
  );
});

it('for whom mail waits is announced every half hour, where that is wished', async () => {
  await bench.server.ask('POST', '/mailbox/letters', { to: '1X9CLA', subject: 'x', text: 'y' });
  const hex = Buffer.from('Mail for 1X9CLA').toString('hex');
  clock.pass(30 * 60_000);
  await bench.peer.got(hex);
  const times = (): number => bench.peer.everything().split(hex).length - 1;
  const before = times();
  await rules({ announces: false });
  clock.pass(31 * 60_000);
  await new Promise((resolve) => setTimeout(resolve, 100));
  expect(times()).toBe(before);
});

it('lines are cut where callers end them, and where they never do', () => {
  const lines = new CallerLines();
  expect(lines.take(Buffer.from('a\rb\r\nc\n\rd\x1ae'))).toEqual(['a', 'b', 'c', '', 'd\x1a']);
  expect(lines.take(Buffer.from('\r'))).toEqual(['e']);
  expect(lines.take(Buffer.from('\nx\r'))).toEqual(['x']);
  expect(lines.take(Buffer.from('y'.repeat(1001)))).toEqual(['y'.repeat(1000)]);
});
