import { randomUUID } from 'node:crypto';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1, toHex } from '@mistpeak/core/bits/octets';
import { BACK_FOR_MS } from '@mistpeak/contract/removals';
import type { MessagesView, OutgoingView, ReceivedView } from '@mistpeak/contract/messages';
import { linkedBench } from '../testing/linked-bench.js';
import { MovedClock } from '../testing/moved-clock.js';
import { BEACON, OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';

const clock = new MovedClock();
const bench = linkedBench({ clock });
const ME = `${TEST_CALL}-7`;
const CART = '1X9CRT-9';

const book = async (): Promise<MessagesView> =>
  (await bench.server.ask<MessagesView>('GET', '/messages')).body;
const one = async (id: string): Promise<OutgoingView> =>
  (await book()).outgoing.find((message) => message.id === id) as OutgoingView;
const phaseOnce = (id: string, kind: OutgoingView['phase']['kind']): Promise<OutgoingView> =>
  until(`${kind}`, async () => {
    const message = await one(id);
    return message.phase.kind === kind ? message : undefined;
  });
const receivedOnce = (text: string): Promise<ReceivedView> =>
  until(text, async () => (await book()).received.find((message) => message.text === text));
/** A link that has just been taken up is not open at once. */
const arm = (): Promise<true> =>
  until('the lock', async () => {
    const { status } = await bench.server.ask('PUT', `/links/${bench.link.id}/lock`, { call: ME });
    return status === 200 ? true : undefined;
  });
const written = (more: object = {}): object => ({
  from: ME,
  to: CART,
  text: 'lamps?',
  linkId: bench.link.id,
  path: 'WIDE1-1',
  ...more,
});
const write = async (more: object = {}): Promise<OutgoingView> =>
  (await bench.server.ask<OutgoingView>('POST', '/messages', written(more))).body;
/** As the peer hears it from somebody. */
const hear = (from: string, info: string): void => {
  const raw = encodeFrame(uiFrame(from, 'APZMPK', [{ call: 'WIDE1-1', used: false }], fromLatin1(info)));
  bench.peer.send(`c000${toHex(raw)}c0`);
};
const infoHex = (info: string): string => Buffer.from(info, 'latin1').toString('hex');
const timesSent = (info: string): number => bench.peer.everything().split(infoHex(info)).length - 1;

beforeAll(() => bench.server.ask('PUT', '/operator', OPERATOR));

describe('what cannot go out is refused at its field', () => {
  it.each([
    [{ to: 'TOOLONGNAME' }, 'to'],
    [{ to: ME }, 'to'],
    [{ to: ' ' }, 'to'],
    [{ text: 'a|b' }, 'text'],
    [{ text: 'x'.repeat(68) }, 'text'],
    [{ text: '' }, 'text'],
    [{ path: 'WIDE9-9-9' }, 'path'],
    [{ goodForMin: 0 }, 'goodForMin'],
    [{ goodForMin: 1441 }, 'goodForMin'],
  ])('%j', async (more, field) =>
    expect(await bench.server.ask('POST', '/messages', written(more))).toMatchObject({
      status: 400,
      body: { field },
    }),
  );

  it('nor from somebody else, nor by a way that is not there', async () => {
    expect(await bench.server.ask('POST', '/messages', written({ from: '1X9OTH-7' }))).toMatchObject({
      body: { reason: 'foreign-call' },
    });
    expect((await bench.server.ask('POST', '/messages', written({ linkId: randomUUID() }))).status).toBe(404);
    expect((await book()).outgoing).toEqual([]);
  });
});

describe('a message', () => {
  it('waits while the transmitter is locked, goes out octet by octet when it is armed, and is acknowledged', async () => {
    const { id, number } = await write();
    expect([number, (await one(id)).phase]).toEqual(['00', { kind: 'queued' }]);
    expect(bench.peer.everything()).not.toContain(infoHex('lamps?'));
    await arm();
    // KISS data frame: APZMPK, 1X9TST-7, WIDE1-1, UI, no layer 3, the text (AX.25 v2.2, 3.12; APRS 1.0.1, "Messages").
    await bench.peer.got(
      `c00082a0b49aa096e062b072a8a6a86eae92888a62406303f0${infoHex(':1X9CRT-9 :lamps?{00')}c0`,
    );
    await phaseOnce(id, 'waiting');
    hear(CART, `:${ME} :ack00`);
    const { phase } = await phaseOnce(id, 'acknowledged');
    expect(phase).toMatchObject({ by: CART, atTry: 1 });
    const page = bench.server.follow();
    const { evidence } = await page.find('snapshot');
    page.close();
    expect(evidence.find(({ rung }) => rung === 'message acknowledged')?.words).toMatch(
      `acknowledged by ${CART} after`,
    );
  });

  it('asked twice under one id is one', async () => {
    const id = randomUUID();
    const ask = (): Promise<Response> =>
      fetch(`http://127.0.0.1:${bench.server.port}/api/v1/messages`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'command-id': id },
        body: JSON.stringify(written({ text: 'twice?' })),
      });
    const answers = await Promise.all([ask(), ask()]);
    expect(answers.map(({ status }) => status)).toEqual([201, 201]);
    expect((await book()).outgoing.filter(({ text }) => text === 'twice?')).toHaveLength(1);
    await until('it to leave', () => timesSent('twice?') === 1);
  });

  it('is sent again after its gap, goes on after a restart where it was, and stops when it is cancelled', async () => {
    const { id } = await write({ text: 'patience' });
    await phaseOnce(id, 'waiting');
    clock.pass(29_000);
    expect(timesSent('patience')).toBe(1);
    clock.pass(1_500);
    await until('the second try', () => timesSent('patience') === 2);
    await phaseOnce(id, 'waiting');
    await bench.server.close();
    bench.server = await ServerUp.on(bench.databaseUrl, { clock });
    expect((await one(id)).tries).toHaveLength(2);
    await arm();
    expect((await one(id)).phase.kind).toBe('waiting');
    clock.pass(61_000);
    await until('the third try', () => timesSent('patience') === 3);
    await phaseOnce(id, 'waiting');
    await bench.server.ask('POST', `/messages/${id}/cancel`);
    clock.pass(121_000);
    await arm();
    const next = await write({ text: 'after it' });
    expect([next.number, (await one(id)).phase]).toEqual(['03', { kind: 'cancelled' }]);
    await until('the next', () => timesSent('after it') === 1);
    expect(timesSent('patience')).toBe(3);
  });

  it('of no use after its time expires; again begins anew', async () => {
    const { id } = await write({ text: 'soup now', goodForMin: 1 });
    await phaseOnce(id, 'waiting');
    clock.pass(60_000);
    expect((await one(id)).phase.kind).toBe('expired');
    await bench.server.ask('POST', `/messages/${id}/cancel`);
    expect((await one(id)).phase.kind).toBe('expired');
    expect((await bench.server.ask('POST', `/messages/${randomUUID()}/again`)).status).toBe(404);
  });

  it('does not leave for a station that the transmitter is not armed for', async () => {
    const { id } = await write({ from: `${TEST_CALL}-5`, text: 'other' });
    expect((await one(id)).phase).toEqual({ kind: 'queued' });
    await bench.server.ask('POST', `/messages/${id}/cancel`);
  });

  it('to a bulletin board bears no number', async () => {
    const message = await write({ to: 'BLN1', text: 'rain' });
    expect(message.number).toBeUndefined();
    await until('it', () => timesSent(':BLN1     :rain') === 1);
    await bench.server.ask('POST', `/messages/${message.id}/cancel`);
  });
});

describe('what is heard', () => {
  it('for us is acknowledged, shown, and known after a restart; its repetition is not shown again', async () => {
    hear(CART, `:${ME} :soup at 7{12`);
    const message = await receivedOnce('soup at 7');
    expect(message).toMatchObject({ standing: 'for me', from: CART, to: ME, number: '12' });
    await until('the acknowledgement', () => timesSent(`:${CART} :ack12`) === 1);
    await until('its count', async () => (await receivedOnce('soup at 7')).acksSent === 1);
    await bench.server.close();
    bench.server = await ServerUp.on(bench.databaseUrl, { clock });
    await arm();
    clock.pass(6000);
    hear(CART, `:${ME} :soup at 7{12`);
    await until('the second', () => timesSent(`:${CART} :ack12`) === 2);
    expect((await book()).received.filter(({ text }) => text === 'soup at 7')).toMatchObject([{ copies: 2 }]);
  });

  it('for another of ours is shown and not acknowledged; through a gate it says so', async () => {
    hear(CART, `:${TEST_CALL}-5 :to the phone{13`);
    hear('1X9GTE-10', `}${CART}>APZMPK,TCPIP,1X9GTE-10*::${ME} :by a gate{14`);
    expect(await receivedOnce('to the phone')).toMatchObject({
      standing: 'for another of mine',
      acksSent: 0,
    });
    expect(await receivedOnce('by a gate')).toMatchObject({ from: CART, throughGate: '1X9GTE-10' });
    await until('the acknowledgement', () => timesSent(`:${CART} :ack14`) === 1);
    expect(timesSent('ack13')).toBe(0);
  });

  it('an answer that a gate puts on the air proves that the gate heard us; a message that nobody asked for does not', async () => {
    const gates = async (): Promise<string[]> => {
      const page = bench.server.follow();
      const { evidence } = await page.find('snapshot');
      page.close();
      return evidence.filter(({ rung }) => rung === 'at a gateway').map(({ words }) => words);
    };
    expect(await gates()).toEqual([]);
    const { id } = await write({ to: 'SERVICE', text: 'now' });
    await phaseOnce(id, 'waiting');
    hear('1X9GTE-10', `}SERVICE>APRS,TCPIP,1X9GTE-10*::${ME} :wind SW{1`);
    await receivedOnce('wind SW');
    expect(await gates()).toEqual([
      expect.stringMatching(
        /^1X9GTE-10 put the answer of SERVICE on the air, \d+ s after we asked by radio$/,
      ),
    ]);
    await bench.server.ask('POST', `/messages/${id}/cancel`);
  });

  it('control characters and odd octets do no harm', async () => {
    hear(CART, `:${ME} :a\u0000b\u00ff{15`);
    expect((await receivedOnce('a·bÿ')).number).toBe('15');
    await until('the acknowledgement', () => timesSent(`:${CART} :ack15`) === 1);
  });
});

describe('the settings', () => {
  it('are kept, and a form that is behind is told so; groups are heard from then on', async () => {
    const { version, ...settings } = (await book()).settings;
    const put = (more: object): Promise<{ status: number }> =>
      bench.server.ask('PUT', '/messages/settings', { ...settings, version, ...more });
    expect((await put({ tries: 0 })).status).toBe(400);
    expect((await put({ groups: ['too long for it'] })).status).toBe(400);
    expect((await put({ groups: ['COUNTERS'], tries: 2 })).status).toBe(200);
    expect((await put({ tries: 3 })).status).toBe(409);
    hear(CART, ':COUNTERS :all in');
    expect(await receivedOnce('all in')).toMatchObject({ standing: 'group' });
    const { id } = await write({ text: 'two tries' });
    await phaseOnce(id, 'waiting');
    clock.pass(31_000);
    await until('two', () => timesSent('two tries') === 2);
    await phaseOnce(id, 'waiting');
    clock.pass(61_000);
    await phaseOnce(id, 'no answer');
    expect((await book()).correspondents).toMatchObject([{ call: CART, ended: 3, acknowledged: 1 }]);
  });

  it('what was read stays read, and never less', async () => {
    const put = (atMs: number): Promise<{ status: number }> =>
      bench.server.ask('PUT', '/messages/read', { conversation: CART, atMs });
    expect((await put((await receivedOnce('soup at 7')).lastCopyAtMs)).status).toBe(204);
    await put(1000);
    expect((await book()).readUpTo).toEqual({ [CART]: (await receivedOnce('soup at 7')).lastCopyAtMs });
  });
});

describe('answers without a person', () => {
  const ask = (text: string, number: string): void => hear(CART, `:${ME} :${text}{${number}`);
  const allow = async (answers: object): Promise<void> => {
    const { version, ...settings } = (await book()).settings;
    await bench.server.ask('PUT', '/messages/settings', {
      ...settings,
      version,
      answers: { heardDirect: false, heardStation: false, way: false, position: false, text: '', ...answers },
    });
  };

  it('are off; switched on, one a minute at most, by itself and without a number', async () => {
    ask('?APRSD', '20');
    await until('its acknowledgement', () => timesSent('ack20') === 1);
    await allow({ heardDirect: true, way: true });
    ask('?APRSD', '21');
    await until('the answer', () => timesSent(`:${CART} :Directs= `) === 1);
    ask('?APRST', '22');
    await until('its acknowledgement', () => timesSent('ack22') === 1);
    expect(timesSent('PATH= ')).toBe(0);
    clock.pass(60_000);
    ask('?APRST', '23');
    await until('the answer', () => timesSent(`:${CART} :PATH= ${CART}>APZMPK,WIDE1-1`) === 1);
    expect((await book()).outgoing.filter(({ isAutomatic }) => isAutomatic)).toMatchObject([
      { to: CART, from: ME },
      { to: CART, from: ME },
    ]);
  });

  it('where I am: one beacon, if there is one', async () => {
    await bench.server.ask('PUT', '/beacon', BEACON);
    await allow({ position: true });
    clock.pass(60_000);
    ask('?APRSP', '24');
    await until('the beacon', () => timesSent('!2937.92S/01124.30W-') === 1);
  });
});

it('a removed link takes nothing of the book with it', async () => {
  const before = (await book()).outgoing.length;
  await bench.server.ask('DELETE', `/links/${bench.link.id}`);
  clock.pass(BACK_FOR_MS);
  expect((await book()).outgoing).toHaveLength(before);
});
