import { randomUUID } from 'node:crypto';
import type { LinkView } from '@mistpeak/contract/link';
import type { MailRow } from '@mistpeak/contract/mail';
import type { MailDesk, MailRunDetail, MailRunView } from '@mistpeak/contract/mail-session';
import { KissBridge } from '../testing/kiss-bridge.js';
import { MailPeer, peerMail } from '../testing/mail-peer.js';
import { MovedClock } from '../testing/moved-clock.js';
import { Program, Radio, WORDS } from '../testing/told-devices.js';
import { linkTo, makeDatabase, OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';

const CALLS = [TEST_CALL, '1X9TSU'] as const;
const PROFILE = randomUUID();

class Station {
  link!: LinkView;
  readonly ask: ServerUp['ask'];

  constructor(
    readonly server: ServerUp,
    readonly call: string,
  ) {
    this.ask = server.ask.bind(server);
  }

  async begin(port: number): Promise<void> {
    await this.ask('PUT', '/operator', { ...OPERATOR, call: this.call });
    this.link = (
      await this.ask<LinkView>('POST', '/links', {
        ...linkTo(port),
        airRate: 9600,
        txDelayMs: 0,
        slotTimeMs: 10,
        persistence: 1,
      })
    ).body;
    await this.ask('POST', `/links/${this.link.id}/open`);
    await until('the link', async () =>
      (await this.ask<LinkView[]>('GET', '/links')).body[0]?.openedAtMs !== undefined ? true : undefined,
    );
  }

  arm(): Promise<unknown> {
    return this.ask('PUT', `/links/${this.link.id}/lock`, { call: this.call });
  }

  profile(more: object = {}): object {
    return {
      id: PROFILE,
      name: 'the other',
      way: 'peer',
      from: this.call,
      linkId: this.link.id,
      gateways: [{ call: CALLS[1], via: '', note: '' }],
      exchanges: 'both',
      tries: 2,
      ...more,
    };
  }

  async choose(more: object): Promise<void> {
    const { version: _, ...settings } = (await this.ask<MailDesk>('GET', '/mail')).body.settings;
    const { status, body } = await this.ask('PUT', '/mail/settings', { ...settings, ...more });
    if (status !== 200) throw new Error(JSON.stringify(body));
  }

  post(to: string, more: object = {}): Promise<unknown> {
    return this.ask('POST', '/mail/messages', {
      to: [to],
      cc: [],
      subject: `to ${to}`,
      text: 'by radio',
      files: [],
      beyondLatin1: 'utf-8',
      precedence: 'routine',
      onlyInternet: false,
      box: 'outbox',
      ...more,
    });
  }

  async start(more: object = {}): Promise<MailRunView> {
    const { body, status } = await this.ask<MailRunView>('POST', '/mail/sessions', {
      profileId: PROFILE,
      ...more,
    });
    if (status !== 201) throw new Error(JSON.stringify(body));
    return body;
  }

  async detail(id: string): Promise<MailRunDetail> {
    return (await this.ask<MailRunDetail>('GET', `/mail/sessions/${id}`)).body;
  }

  over(id: string): Promise<MailRunView> {
    return until('its end', async () => {
      const { run } = await this.detail(id);
      return run.phase === 'over' ? run : undefined;
    });
  }

  async box(name: string): Promise<string[]> {
    return (await this.ask<MailRow[]>('GET', `/mail/messages?box=${name}`)).body.map(
      ({ subject }) => subject,
    );
  }

  async rungs(): Promise<string[]> {
    const page = this.server.follow();
    const { evidence } = await page.find('snapshot');
    page.close();
    return evidence.map(({ rung }) => rung);
  }
}

describe('between two Mistpeaks', () => {
  let bridge: KissBridge;
  let me: Station;
  let other: Station;

  beforeAll(async () => {
    bridge = await KissBridge.listen();
    [me, other] = (await Promise.all(
      CALLS.map(async (call) => new Station(await ServerUp.on(await makeDatabase()), call)),
    )) as [Station, Station];
    await me.begin(bridge.port);
    await other.begin(bridge.port);
    await me.choose({ profiles: [me.profile()] });
    await other.choose({ listening: { isOn: true, linkId: other.link.id, ssid: 0, allowsAutomatic: true } });
  });
  afterAll(async () => {
    await me.server.close();
    await other.server.close();
    await bridge.close();
  });

  it('nothing is called while the transmitter is locked', async () => {
    expect(await me.ask('POST', '/mail/sessions', { profileId: PROFILE })).toMatchObject({
      status: 409,
      body: { reason: 'not-armed' },
    });
  });

  it('one calls, the other listens: what each has for the other goes over, and nothing else', async () => {
    await me.arm();
    await other.arm();
    await me.post(CALLS[1]);
    await me.post('QH7CTA');
    await other.post(CALLS[0], { text: 'and back\n'.repeat(50) });
    const { id } = await me.start();
    const run = await me.over(id);
    expect(run.outcome).toMatchObject({ ok: true });
    expect(run).toMatchObject({ way: 'peer', out: [{ state: 'taken' }], in: [{ state: 'kept' }] });
    expect([await me.box('inbox'), await other.box('inbox')]).toEqual([
      [`to ${CALLS[0]}`],
      [`to ${CALLS[1]}`],
    ]);
    expect([await me.box('outbox'), await other.box('outbox')]).toEqual([['to QH7CTA'], []]);
    const { lines } = await me.detail(id);
    expect(lines.map(({ text }) => text)).toEqual(
      expect.arrayContaining([
        `; ${CALLS[0]} DE ${CALLS[1]} (IG40hi)`,
        `; ${CALLS[1]} DE ${CALLS[0]} (IG40hi)`,
      ]),
    );
    expect(await me.rungs()).toEqual(
      expect.arrayContaining(['far station answered', 'data both ways', 'mail sent', 'mail received']),
    );
    expect(await me.rungs()).not.toContain('logged in to mail');
    const page = other.server.follow();
    const { mailRuns } = await page.find('snapshot');
    page.close();
    expect(mailRuns).toMatchObject([{ calledBy: 'them', gateway: CALLS[0], outcome: { ok: true } }]);
  });

  it('its transcript is in no terminal, and pages hear nothing of what was said', async () => {
    const page = me.server.follow();
    await page.find('snapshot');
    const { id } = await me.start();
    const { sessionId } = await me.over(id);
    expect(page.events.filter(({ kind }) => kind === 'session-said')).toEqual([]);
    page.close();
    expect((await me.ask('GET', `/sessions/${sessionId}/said`)).body).toEqual([]);
    expect((await me.ask('GET', `/sessions/${sessionId}/export/text`)).status).toBe(404);
    expect((await me.ask('GET', '/sessions/search?text=Mistpeak')).body).toEqual([]);
  });

  it('who does not listen is told as that, by name, and the next one is called', async () => {
    await other.choose({ listening: { isOn: false, linkId: other.link.id, ssid: 0, allowsAutomatic: true } });
    await me.choose({
      profiles: [
        me.profile({
          gateways: [
            { call: CALLS[1], via: '', note: '' },
            { call: `${CALLS[1]}-4`, via: '', note: '' },
          ],
          tries: 1,
        }),
      ],
    });
    const { id } = await me.start();
    const run = await me.over(id);
    expect(run.attempts.map(({ gateway, result }) => `${gateway} ${result}`)).toEqual([
      `${CALLS[1]} refused`,
      `${CALLS[1]}-4 no answer`,
    ]);
    expect(run.outcome).toMatchObject({ ok: false, happened: expect.stringContaining('No answer') });
  });

  it('a frequency is told, and nothing is called before it is ticked; the same one is not asked for again', async () => {
    await other.choose({ listening: { isOn: true, linkId: other.link.id, ssid: 0, allowsAutomatic: true } });
    await me.choose({
      profiles: [me.profile({ gateways: [{ call: CALLS[1], via: '', note: '', frequencyMHz: 144.85 }] })],
    });
    const { id } = await me.start();
    const { run } = await me.detail(id);
    expect(run).toMatchObject({ phase: 'tuning', tuning: { frequencyMHz: 144.85, by: 'hand' } });
    await me.ask('POST', `/mail/sessions/${id}/tuned`);
    expect((await me.over(id)).outcome?.ok).toBe(true);
    expect((await me.over((await me.start()).id)).outcome?.ok).toBe(true);
    // Stopped while it waits for the tick, it calls nobody.
    await me.choose({
      profiles: [me.profile({ gateways: [{ call: CALLS[1], via: '', note: '', frequencyMHz: 144.9 }] })],
    });
    const waiting = await me.start();
    await me.ask('POST', `/mail/sessions/${waiting.id}/stop`);
    expect((await me.over(waiting.id)).attempts).toMatchObject([{ result: 'stopped' }]);
  });

  describe('a radio that is told its frequency', () => {
    let radio: Radio;
    const at = (port: number): object => ({
      name: 'set',
      at: `127.0.0.1:${port}`,
      speed: 9600,
      ending: 'CR',
      words: { set: 'FREQ {hz:10}', ask: 'FREQ?', frequencyIs: 'FREQ {hz} BAND {band}' },
    });
    const session = async (): Promise<MailRunView> => me.over((await me.start()).id);

    beforeAll(async () => {
      radio = await Radio.listen();
      await me.choose({
        radios: [at(radio.port)],
        profiles: [
          me.profile({
            radio: 'set',
            gateways: [{ call: CALLS[1], via: '', note: '', frequencyMHz: 144.875 }],
          }),
        ],
      });
    });
    afterAll(() => radio.close());

    it('is set, read back, and put back afterwards', async () => {
      expect((await session()).outcome?.ok).toBe(true);
      await until('it to be put back', () => radio.hz === 144_800_000);
      expect(radio.heard).toEqual(['FREQ?', 'FREQ 0144875000', 'FREQ?', 'FREQ?', 'FREQ 0144800000', 'FREQ?']);
    });

    it('a command that reached the other band is named, and nobody is called', async () => {
      radio.setsOther = true;
      const { attempts } = await session();
      expect(attempts).toMatchObject([
        {
          result: 'not tuned',
          words:
            '144.875 MHz was asked for, and the radio says 144.800 MHz on band A, as before: the command may have set its other band',
        },
      ]);
      expect(attempts[0]).not.toHaveProperty('calledAtMs');
    });

    it('a port that does not open is told', async () => {
      await me.choose({ radios: [at(1)] });
      expect((await session()).attempts[0]).toMatchObject({
        result: 'not tuned',
        words: expect.stringContaining('does not open'),
      });
    });
  });

  describe('through a modem program', () => {
    let program: Program;
    let gateway: MailPeer;
    const session = async (): Promise<MailRunView> => me.over((await me.start({ password: 'seabird' })).id);

    beforeAll(async () => {
      gateway = await MailPeer.listen();
      program = await Program.listen(gateway.port);
      await me.choose({
        modems: [
          {
            name: 'program',
            host: '127.0.0.1',
            commandPort: program.commandPort,
            dataPort: program.dataPort,
            card: '',
            words: WORDS,
          },
        ],
        profiles: [
          me.profile({
            way: 'modem',
            modem: 'program',
            gateways: [{ call: '1X9GTE-10', via: '', note: '' }],
          }),
        ],
      });
    });
    afterAll(async () => {
      await program.close();
      await gateway.close();
    });

    it('by its own words: the call read back, linked, buffer empty, unlinked; each lights its rung', async () => {
      await me.ask('POST', '/mail/self-tests', { chain: 'modem program' });
      gateway.waiting = [peerMail('MODEM1')];
      const run = await session();
      expect(run.outcome).toMatchObject({ ok: true });
      expect(program.heard).toEqual([`I AM ${CALLS[0]}`, 'WHO', `CALL ${CALLS[0]} 1X9GTE-10`, 'BYE']);
      expect(await me.box('inbox')).toContain('about MODEM1');
      const page = me.server.follow();
      const { evidence } = await page.find('snapshot');
      page.close();
      const words = evidence.filter(({ words }) => words.includes('modem program')).map(({ rung }) => rung);
      expect(words).toEqual(expect.arrayContaining(['far station answered', 'keyed']));
    });

    it('asks before it takes what is over the limit: yes, no, later', async () => {
      await me.choose({ askOverOctets: 100 });
      const heavy = (mid: string): ReturnType<typeof peerMail> =>
        peerMail(mid, Array.from({ length: 60 }, (_, i) => `${mid} ${i * i}`).join(' '));
      gateway.waiting = [heavy('L1'), heavy('L2'), heavy('L3')];
      const { id } = await me.start({ password: 'seabird' });
      const asking = await until('the question', async () =>
        (await me.detail(id)).run.askedAbout.length > 0 ? me.detail(id) : undefined,
      );
      expect(asking.announced.find(({ mid }) => mid === 'L2')).toMatchObject({
        subject: 'waiting L2',
        from: 'SERVICE',
      });
      const decisions = [
        { mid: 'L1', answer: 'yes' },
        { mid: 'L2', answer: 'no' },
        { mid: 'L3', answer: 'later' },
      ];
      await me.ask('POST', `/mail/sessions/${id}/decide`, { decisions });
      expect((await me.over(id)).in.map(({ state }) => state)).toEqual(['kept', 'not wanted', 'later']);
      expect(gateway.waiting.map(({ mid }) => mid)).toEqual(['L3']);
      await me.choose({ askOverOctets: 5000 });
    });

    it('with another call in it nothing is sent; a refusal is told', async () => {
      program.own = 'QH7CTA';
      expect((await session()).attempts[0]).toMatchObject({
        result: 'refused',
        words: `the modem program has the call QH7CTA, not ${CALLS[0]}`,
      });
      program.own = undefined;
      program.refusal = 'CANNOT the card is in use';
      expect((await session()).attempts[0]).toMatchObject({
        result: 'refused',
        words: 'the modem program refused: the card is in use',
      });
      program.refusal = undefined;
    });
  });
});

it('by schedule it calls when it is due, within its hours, while the transmitter is armed', async () => {
  const clock = new MovedClock();
  clock.setWall(Date.UTC(2026, 4, 3, 17, 50) - Date.now());
  const server = await ServerUp.on(await makeDatabase(), { clock });
  const peer = await MailPeer.listen();
  const bridge = await KissBridge.listen();
  try {
    peer.challenge = undefined;
    const me = new Station(server, TEST_CALL);
    await me.begin(bridge.port);
    const schedule = {
      isOn: true,
      everyMinutes: 30,
      atTimes: [],
      fromHour: 18,
      toHour: 19,
      allowsAutomatic: true,
    };
    const profile = {
      ...me.profile(),
      way: 'tcp',
      host: '127.0.0.1',
      port: peer.port,
      gateways: [],
      schedule,
    };
    await me.choose({ profiles: [profile] });
    expect((await me.ask<MailDesk>('GET', '/mail')).body.nextAtMs[PROFILE]).toBeCloseTo(
      Date.UTC(2026, 4, 3, 18, 20),
      -5,
    );
    clock.pass(29 * 60_000);
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(peer.sessions).toBe(0);
    clock.pass(80_000);
    await until('a call', () => peer.sessions === 1);
    // Locked, a way by radio calls nobody: that is told at its profile.
    await me.choose({ profiles: [{ ...me.profile(), schedule }] });
    clock.pass(31 * 60_000);
    await new Promise((resolve) => setTimeout(resolve, 200));
    const page = server.follow();
    const { mailRuns } = await page.find('snapshot');
    page.close();
    expect(mailRuns.map(({ way, isScheduled }) => `${way} ${isScheduled}`)).toEqual(['tcp true']);
    const { notCalled } = (await me.ask<MailDesk>('GET', '/mail')).body;
    expect(notCalled).toEqual({ [PROFILE]: 'The transmitter is locked.' });
  } finally {
    await server.close();
    await peer.close();
    await bridge.close();
  }
});
