import { randomUUID } from 'node:crypto';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import type { SessionFileView, SessionView } from '@mistpeak/contract/sessions';
import type { ConsoleView, TerminalSettingsView, VisitView } from '@mistpeak/contract/terminal';
import { CallingBench, type Both } from '../testing/calling-bench.js';
import { linkTo, until } from '../testing/server-up.js';

const rig = new CallingBench();
const { bench, clock } = rig;
const NODE = {
  name: 'Hut mailbox',
  call: 'QH2HUT-1',
  via: '',
  kind: 'mailbox',
  note: '',
  endOfText: '/EX',
  charset: 'guess',
  escapes: 'strip',
};

beforeAll(() => rig.arm());

/** The far end says this in its next frame, and takes all that is said to it. */
class Talk {
  private ns = 0;
  private nr = 0;
  constructor(private readonly both: Both) {}

  says(text: string): void {
    for (let at = 0; at < text.length; at += 200)
      this.both.far.i(this.ns++ & 7, this.nr, text.slice(at, at + 200));
  }

  /** Everything until that was said to it. */
  async hears(end: string): Promise<string> {
    let said = '';
    while (!said.endsWith(end)) {
      const [, ns, info] = /^I (\d) \d(?: P)?:([^]*)$/.exec(await this.both.far.next()) ?? [];
      if (ns === undefined) continue;
      said += info;
      this.nr = (Number(ns) + 1) & 7;
      this.both.far.supervisory('RR', this.nr);
    }
    return said;
  }
}

describe('what is saved', () => {
  it('stations and macros are kept, with a version, and refused at their fields', async () => {
    const settings = { nodes: [{ ...NODE, frequencyMHz: 144.85 }], macros: [{ name: 'list', text: 'L\r' }] };
    const { body } = await bench.server.ask<TerminalSettingsView>('PUT', '/terminal/settings', settings);
    expect(body).toMatchObject({ ...settings, version: 1 });
    expect((await bench.server.ask('PUT', '/terminal/settings', { ...settings, version: 0 })).status).toBe(
      409,
    );
    for (const [more, field] of [
      [{ call: '' }, 'nodes'],
      [{ via: 'WIDE2-2' }, 'nodes'],
      [{ kind: 'shop' }, 'nodes'],
    ] as const)
      expect(
        await bench.server.ask('PUT', '/terminal/settings', { ...settings, nodes: [{ ...NODE, ...more }] }),
      ).toMatchObject({ status: 400, body: { field } });
    await rig.restart();
    await rig.arm();
    const page = bench.server.follow();
    const { terminal } = await page.find('snapshot');
    page.close();
    expect(terminal).toEqual(body);
  });
});

describe('a visit', () => {
  const HEADING = 'Msg# Size To From Subject\r';
  const order = (to: string, more: object = {}): object => ({
    call: rig.called(to),
    reads: true,
    leave: [],
    killsRead: false,
    bye: true,
    endOfText: '/EX',
    ...more,
  });
  const outcome = (id: string, what: VisitView['outcome']): Promise<VisitView> =>
    until(`the visit to be ${what}`, async () => {
      const page = bench.server.follow();
      const { visits } = await page.find('snapshot');
      page.close();
      return visits.find((one) => one.id === id && one.outcome === what);
    });
  const begin = async (more: object = {}): Promise<Both & { talk: Talk }> => {
    const far = rig.station();
    const { body, status } = await bench.server.ask<VisitView>(
      'POST',
      '/terminal/visits',
      order(far.call, more),
    );
    if (status !== 201) throw new Error(JSON.stringify(body));
    await far.expect('SABM P');
    far.ua();
    return { id: body.id, far, talk: new Talk({ id: body.id, far }) };
  };

  it('runs by itself: lists, reads, leaves, kills, lists again, says good-bye; its record is the session’s', async () => {
    const { id, far, talk } = await begin({
      killsRead: true,
      leave: [{ to: 'QH8CLA', subject: 'lamps', text: 'two\nüber' }],
    });
    talk.says('Hello\rhut>\r');
    await talk.hears('L\r');
    talk.says(`${HEADING}7 9 1X9TST QH8CLA soup\rhut>\r`);
    await talk.hears('R 7\r');
    talk.says('From QH8CLA\rat seven\rhut>\r');
    await talk.hears('S QH8CLA\r');
    talk.says('Subject:');
    await talk.hears('lamps\r');
    talk.says('Text, /EX:');
    expect(await talk.hears('/EX\r')).toBe('two\r\xc3\xbcber\r/EX\r');
    talk.says('hut>\r');
    await talk.hears('K 7\r');
    talk.says('hut>\r');
    await talk.hears('L\r');
    talk.says(`${HEADING}8 9 QH8CLA 1X9TST lamps\rhut>\r`);
    await talk.hears('B\r');
    far.disc();
    const { steps } = await outcome(id, 'done');
    expect(steps.map(({ task, state }) => `${task.kind} ${state}`)).toEqual([
      'prompt done',
      'list done',
      'read done',
      'leave done',
      'kill done',
      'list again done',
      'bye done',
    ]);
    expect(await rig.heardText(id)).toMatch('at seven');
  });

  it('stops at the first surprise, and when it is told to; the session stays for the operator', async () => {
    const surprised = await begin();
    surprised.talk.says('hut>\r');
    await surprised.talk.hears('L\r');
    surprised.talk.says('7 things on the shelf\rhut>\r');
    expect((await outcome(surprised.id, 'stopped')).steps.at(-1)?.words).toMatch(
      'its listing was not understood',
    );
    expect((await rig.view(surprised.id)).phase).toBe('connected');
    await rig.ended(surprised);
    const told = await begin();
    expect((await bench.server.ask('POST', `/terminal/visits/${told.id}/stop`)).body).toMatchObject({
      outcome: 'stopped',
    });
    await rig.ended(told);
    expect((await bench.server.ask('POST', `/terminal/visits/${randomUUID()}/stop`)).status).toBe(404);
  });

  it('that a stop of the program cut off goes on no more', async () => {
    const { id } = await begin();
    await outcome(id, 'runs');
    await rig.restart();
    expect((await outcome(id, 'stopped')).steps[0]).toMatchObject({
      state: 'stopped',
      words: 'Mistpeak was stopped',
    });
    await rig.arm();
  });
});

describe('files', () => {
  const file = (
    both: Both,
    way: string,
    text: string,
  ): Promise<{ status: number; body: Record<string, unknown> }> =>
    bench.server.ask('POST', `/terminal/sessions/${both.id}/file`, {
      name: '../tally.csv',
      base64: Buffer.from(text, 'latin1').toString('base64'),
      way,
    });

  it('go out as they are, or as text', async () => {
    const both = await rig.connected();
    const talk = new Talk(both);
    await file(both, 'plain', '41\x00terns');
    await talk.hears('41\x00terns');
    await file(both, 'text', 'foo');
    expect(await talk.hears('====\r')).toBe('begin-base64 644 tally.csv\rZm9v\r====\r');
    expect((await file(both, 'pigeon', 'x')).status).toBe(400);
    await rig.ended(both);
  });

  it('go out by YAPP, and the transcript is marked', async () => {
    const both = await rig.connected();
    const talk = new Talk(both);
    await file(both, 'yapp', 'hi');
    await talk.hears('\x05\x01');
    expect((await file(both, 'yapp', 'x')).body).toMatchObject({ reason: 'file-underway' });
    talk.says('\x06\x01');
    await talk.hears('\x01\x0ctally.csv\x002\x00');
    talk.says('\x06\x02');
    await talk.hears('\x02\x02hi\x03\x01');
    talk.says('\x06\x03');
    await talk.hears('\x04\x01');
    talk.says('\x06\x04');
    expect((await rig.once(both.id, 'its end', ({ file: one }) => one?.ok !== undefined)).file).toMatchObject(
      {
        direction: 'out',
        name: 'tally.csv',
        ok: true,
      },
    );
    talk.says('text again');
    await until('it', async () => (await rig.heardText(both.id)).endsWith('again'));
    const said = await rig.said(both.id);
    expect([said[0]?.isFile, said.at(-1)?.isFile]).toEqual([true, undefined]);
    await rig.ended(both);
  });

  it('come in by YAPP, octet by octet, and can be fetched', async () => {
    const both = await rig.connected();
    const talk = new Talk(both);
    await bench.server.ask('POST', `/terminal/sessions/${both.id}/receive`);
    talk.says('\x05\x01');
    await talk.hears('\x06\x01');
    talk.says('\x01\x0a../a.bin\x003\x00'.replace('\x0a', '\x0b'));
    await talk.hears('\x06\x02');
    talk.says('\x02\x03\x00\xff\x0d\x03\x01');
    await talk.hears('\x06\x03');
    talk.says('\x04\x01');
    await talk.hears('\x06\x04');
    await rig.once(both.id, 'its end', ({ file: one }) => one?.ok === true);
    const [kept] = (await bench.server.ask<SessionFileView[]>('GET', `/sessions/${both.id}/files`)).body;
    expect(kept).toMatchObject({ name: 'a.bin', octets: 3 });
    const response = await fetch(`http://127.0.0.1:${bench.server.port}/api/v1/sessions/files/${kept?.id}`);
    expect(Buffer.from(await response.arrayBuffer())).toEqual(Buffer.from([0, 0xff, 0x0d]));
    await rig.ended(both);
  });

  it('are given up when asked, when the session ends, and when nobody goes on', async () => {
    const both = await rig.connected();
    await bench.server.ask('POST', `/terminal/sessions/${both.id}/receive`);
    const { body } = await bench.server.ask<SessionView>('DELETE', `/terminal/sessions/${both.id}/file`);
    expect(body.file).toMatchObject({ ok: false, words: 'given up here' });
    await bench.server.ask('POST', `/terminal/sessions/${both.id}/receive`);
    clock.pass(10 * 60_000);
    await rig.once(both.id, 'the end', ({ file: one }) => one?.words === 'the other end does not go on');
    await rig.ended(both);
    const cut = await rig.connected();
    await bench.server.ask('POST', `/terminal/sessions/${cut.id}/receive`);
    cut.far.disc();
    await rig.once(cut.id, 'the end', ({ phase }) => phase === 'disconnected');
  });
});

describe('the prompt of a TNC', () => {
  async function tnc(): Promise<{
    id: string;
    typed: () => string;
    says: (text: string) => void;
    close: () => void;
  }> {
    let typed = '';
    const sockets: Socket[] = [];
    const server = createServer((socket) => {
      sockets.push(socket);
      socket.on('data', (octets: Buffer) => (typed += octets.toString('latin1')));
      socket.write('\r\ncmd:');
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    const { body } = await bench.server.ask<{ id: string }>('POST', '/links', {
      ...linkTo(port),
      name: 'old TNC',
    });
    return {
      id: body.id,
      typed: () => typed,
      says: (text) => sockets.forEach((socket) => socket.write(text)),
      close: () => {
        sockets.forEach((socket) => socket.destroy());
        server.close();
      },
    };
  }
  const type = (id: string, text: string): Promise<{ status: number; body: Record<string, unknown> }> =>
    bench.server.ask('POST', `/terminal/console/${id}/type`, {
      base64: Buffer.from(text, 'latin1').toString('base64'),
    });
  const told = async (id: string): Promise<string> =>
    (await bench.server.ask<{ side: string; hex: string }[]>('GET', `/terminal/console/${id}`)).body
      .filter(({ side }) => side === 'theirs')
      .map(({ hex }) => Buffer.from(hex, 'hex').toString('latin1'))
      .join('');

  it('is shown; what only reads may be typed at any time, what can key only when armed', async () => {
    const one = await tnc();
    expect((await bench.server.ask<ConsoleView>('PUT', `/terminal/console/${one.id}`)).body).toMatchObject({
      phase: 'open',
    });
    await until('its prompt', async () => (await told(one.id)).endsWith('cmd:'));
    expect((await type(one.id, 'MYCALL\r')).status).toBe(200);
    expect((await type(one.id, 'C QH2')).status).toBe(200);
    expect((await type(one.id, 'HUT\r')).body).toMatchObject({ reason: 'not-armed' });
    expect((await type(one.id, '\x03')).status).toBe(200);
    expect((await type(one.id, '\xc0\xff\xc0')).status).toBe(200);
    expect((await type(one.id, '\r')).body).toMatchObject({ reason: 'not-armed' });
    await until('it', () => one.typed() === 'MYCALL\rC QH2\x03\xc0\xff\xc0');
    one.says('*** CONNECTED to QH2HUT-1\r');
    await until('the connection', async () => (await told(one.id)).includes('CONNECTED'));
    expect((await type(one.id, 'x')).body).toMatchObject({ reason: 'not-armed' });
    one.says('*** DISCONNECTED\r\ncmd:');
    await until('its end', async () => (await told(one.id)).endsWith('DISCONNECTED\r\ncmd:'));
    expect((await bench.server.ask('DELETE', `/terminal/console/${one.id}`)).body).toMatchObject({
      phase: 'closed',
    });
    expect((await type(one.id, 'MYCALL\r')).body).toMatchObject({ reason: 'link-not-open' });
    one.close();
  });

  it('excludes KISS on the same port, and a TNC that goes away is told', async () => {
    const one = await tnc();
    await bench.server.ask('POST', `/links/${one.id}/open`);
    await until(
      'it to be open',
      async () => (await bench.server.ask('PUT', `/terminal/console/${one.id}`)).body.reason === 'link-open',
    );
    await bench.server.ask('POST', `/links/${one.id}/close`);
    await bench.server.ask('PUT', `/terminal/console/${one.id}`);
    expect((await bench.server.ask('POST', `/links/${one.id}/open`)).body).toMatchObject({
      reason: 'console-open',
    });
    one.close();
    await until('its end', async () => {
      const page = bench.server.follow();
      const { consoles } = await page.find('snapshot');
      page.close();
      return consoles.find(({ linkId, trouble }) => linkId === one.id && trouble !== undefined);
    });
    expect((await bench.server.ask('PUT', `/terminal/console/${one.id}`)).body).toMatchObject({
      reason: 'refused',
    });
    expect((await bench.server.ask('PUT', `/terminal/console/${randomUUID()}`)).status).toBe(404);
  });
});
