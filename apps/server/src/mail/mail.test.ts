import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { MailDesk, MailRunDetail, MailRunView } from '@mistpeak/contract/mail-session';
import type { MailMessageView, MailRow } from '@mistpeak/contract/mail';
import type { MailProfile, MailSettings } from '@mistpeak/contract/mail-settings';
import { MailPeer, peerMail } from '../testing/mail-peer.js';
import { makeDatabase, OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';

const folder = mkdtempSync(join(tmpdir(), 'mail-'));
const PROFILE = randomUUID();
let databaseUrl: string;
let server: ServerUp;
let peer: MailPeer;

const profile = (more: Partial<MailProfile> = {}): MailProfile => ({
  id: PROFILE,
  name: 'service',
  way: 'tcp',
  from: TEST_CALL,
  host: '127.0.0.1',
  port: peer.port,
  word: 'reed',
  gateways: [],
  exchanges: 'both',
  tries: 1,
  ...more,
});
const desk = async (): Promise<MailDesk> => (await server.ask<MailDesk>('GET', '/mail')).body;
async function choose(
  more: Partial<MailSettings> = {},
): Promise<{ status: number; body: Record<string, unknown> }> {
  const { version: _, ...settings } = (await desk()).settings;
  return server.ask('PUT', '/mail/settings', { ...settings, profiles: [profile()], ...more });
}
const letter = (more: object = {}): object => ({
  to: ['QH7CTA'],
  cc: [],
  subject: 'lamps',
  text: 'two left',
  files: [],
  beyondLatin1: 'utf-8',
  precedence: 'routine',
  onlyInternet: false,
  box: 'outbox',
  ...more,
});
const post = async (more: object = {}): Promise<MailRow> => {
  const { status, body } = await server.ask<MailRow>('POST', '/mail/messages', letter(more));
  if (status !== 201) throw new Error(JSON.stringify(body));
  return body;
};
const box = async (name: string): Promise<MailRow[]> =>
  (await server.ask<MailRow[]>('GET', `/mail/messages?box=${name}`)).body;
async function session(more: object = {}): Promise<MailRunView> {
  const { body, status } = await server.ask<MailRunView>('POST', '/mail/sessions', {
    profileId: PROFILE,
    password: 'seabird',
    ...more,
  });
  if (status !== 201) throw new Error(JSON.stringify(body));
  return over(body.id);
}
const detail = async (id: string): Promise<MailRunDetail> =>
  (await server.ask<MailRunDetail>('GET', `/mail/sessions/${id}`)).body;
const over = (id: string): Promise<MailRunView> =>
  until('the end of the session', async () => {
    const { run } = await detail(id);
    return run.phase === 'over' ? run : undefined;
  });
const start = (more: object = {}): Promise<ServerUp> =>
  ServerUp.on(databaseUrl, { dataFolder: folder, ...more });

beforeAll(async () => {
  databaseUrl = await makeDatabase();
  server = await start();
  peer = await MailPeer.listen();
  await server.ask('PUT', '/operator', OPERATOR);
  expect(await choose()).toMatchObject({ status: 200 });
});
afterAll(async () => {
  await server.close();
  await peer.close();
  rmSync(folder, { recursive: true });
});
beforeEach(() => {
  peer.misbehaves = {};
  peer.challenge = '23753528';
  peer.password = 'seabird';
});

describe('a session', () => {
  it('brings out what was posted and in what waits, each once', async () => {
    const { mid } = await post();
    peer.waiting = [peerMail('IN1'), peerMail('IN2', 'x'.repeat(4000))];
    const run = await session();
    expect(run.outcome).toMatchObject({ ok: true });
    expect(run.attempts).toMatchObject([{ result: 'done', loggedIn: true }]);
    expect((await detail(run.id)).subjects).toEqual({ [mid]: 'lamps', IN1: 'about IN1', IN2: 'about IN2' });
    expect(peer.received.map((one) => one.mid)).toEqual([mid]);
    expect(peer.received[0]?.octets.toString('latin1')).toMatch(
      /^Mid: .*\r\nDate: \d{4}\/\d\d\/\d\d \d\d:\d\d\r\nType: Private\r\nFrom: 1X9TST\r\nTo: QH7CTA\r\nSubject: lamps\r\nMbo: 1X9TST\r\nBody: 8\r\n\r\ntwo left$/s,
    );
    expect((await box('inbox')).map((one) => one.mid).sort()).toEqual(['IN1', 'IN2']);
    expect([await box('outbox'), (await box('sent')).map((one) => one.note)]).toEqual([
      [],
      [`taken by 127.0.0.1`],
    ]);
    peer.waiting = [peerMail('IN1')];
    expect(await session()).toMatchObject({ in: [{ mid: 'IN1', state: 'had' }] });
    expect(await box('inbox')).toHaveLength(2);
  });

  it('says the published words, and never the password; the lines are kept', async () => {
    const run = await session();
    expect(peer.heard.split('\r')).toEqual([
      `;FW: ${TEST_CALL}`,
      '[Mistpeak-1-B2FHM$]',
      expect.stringMatching(/^;PR: \d{8}$/),
      `; 127.0.0.1 DE ${TEST_CALL} (IG40hi)`,
      'FF',
      '',
    ]);
    const { lines } = await detail(run.id);
    expect(lines.map(({ text }) => text)).toEqual(
      expect.arrayContaining(['[Peer-3.2-B2FHM$]', ';PQ: 23753528', 'FQ']),
    );
    expect(JSON.stringify(await detail(run.id))).not.toMatch('seabird');
  });

  it('the first with nothing queued offers nothing, and takes what waits', async () => {
    await post({ subject: 'not yet' });
    peer.waiting = [peerMail('IN3')];
    const run = await session({ nothingQueued: true });
    expect([run.out, run.in.map(({ state }) => state)]).toEqual([[], ['kept']]);
    expect(await box('outbox')).toHaveLength(1);
    await choose({ profiles: [profile({ exchanges: 'send' })] });
    peer.waiting = [peerMail('IN4')];
    expect(await session()).toMatchObject({
      out: [{ state: 'taken' }],
      in: [{ mid: 'IN4', state: 'later' }],
    });
    await choose({ profiles: [profile({ exchanges: 'receive' })] });
    await post({ subject: 'stays' });
    expect(await session()).toMatchObject({ out: [], in: [{ mid: 'IN4', state: 'kept' }] });
    await choose();
    await session();
  });

  it('answers for further addresses; the same id is the same session; one at a time', async () => {
    await choose({ auxiliary: ['HUT-1'] });
    const id = randomUUID();
    const order = (): Promise<Response> =>
      fetch(`http://127.0.0.1:${server.port}/api/v1/mail/sessions`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'command-id': id },
        body: JSON.stringify({ profileId: PROFILE, password: 'seabird' }),
      });
    const before = peer.sessions;
    await Promise.all([order(), order()]);
    expect(await server.ask('POST', '/mail/sessions', { profileId: PROFILE })).toMatchObject({
      status: 409,
      body: { reason: 'mail-under-way' },
    });
    await over(id);
    expect(peer.sessions).toBe(before + 1);
    expect(peer.heard).toMatch(/;FW: 1X9TST HUT-1\|\d{8}\r/);
    await choose({ auxiliary: [] });
  });

  it('by the internet nothing is asked about, however large', async () => {
    await choose({ askOverOctets: 100 });
    peer.waiting = [peerMail('LARGE', Array.from({ length: 60 }, (_, i) => `${i * i}`).join(' '))];
    expect((await session()).in.map(({ state }) => state)).toEqual(['kept']);
    await choose({ askOverOctets: 5000 });
  });

  it.each([
    [{ refusal: '*** Mail service is out of reach' }, 'service out of reach'],
    [{ refusesLogin: true }, 'wrong password'],
    [{ cutAfterSaid: 0 }, 'lost before greeting'],
    [{ banner: 'z'.repeat(5000) }, 'done'],
    [{ banner: `${'news\r'.repeat(20_000)}` }, 'talks without end'],
  ] as const)('ends by a name, with what to try: %#', async (misbehaves, result) => {
    peer.misbehaves = misbehaves;
    const run = await session();
    expect(run.attempts.at(-1)?.result).toBe(result);
    expect(run.outcome?.ok).toBe(result === 'done');
    expect(run.outcome?.try).toMatch(/\w/);
    if ('refusal' in misbehaves) expect(run.outcome?.said).toBe(misbehaves.refusal);
  });

  it('a password that is not known is told as that, and nobody is given another', async () => {
    expect((await session({ password: '' })).attempts[0]?.result).toBe('password needed');
    expect((await session({ password: 'Seabird' })).attempts[0]?.result).toBe('wrong password');
  });

  it('is stopped politely: what is under way is finished, the rest stays', async () => {
    await post({ subject: 'one', text: 'a' });
    peer.misbehaves = { silentAt: 'answers' };
    const { body } = await server.ask<MailRunView>('POST', '/mail/sessions', {
      profileId: PROFILE,
      password: 'seabird',
    });
    await until('the proposals', async () =>
      (await detail(body.id)).run.exchange === 'awaiting answers' ? true : undefined,
    );
    await server.ask('POST', `/mail/sessions/${body.id}/stop`);
    expect((await detail(body.id)).run).toMatchObject({ phase: 'talking', isStopping: true });
    await server.ask('POST', `/mail/sessions/${body.id}/stop`);
    expect((await over(body.id)).attempts[0]?.result).toBe('stopped');
    expect(await box('outbox')).toHaveLength(1);
    await peer.close();
    peer = await MailPeer.listen();
    await choose();
    await session();
  });
});

describe('nothing is lost or doubled', () => {
  it('cut at any octet, either way: the next session goes on, and each message arrives once', async () => {
    const text = (n: number): string =>
      Array.from({ length: 90 }, (_, i) => (i * i * n).toString(36)).join(' ');
    const out: string[] = [];
    const seen = new Set(peer.received.map(({ mid }) => mid));
    for (const [i, cut] of [
      { cutAfterHeard: 120 },
      { cutAfterHeard: 300 },
      { cutAfterHeard: 450 },
      { cutAfterSaid: 60 },
      { cutAfterSaid: 350 },
      { cutAfterSaid: 420 },
    ].entries()) {
      out.push((await post({ subject: `cut ${i}`, text: text(i + 2) })).mid);
      peer.waiting.push(peerMail(`CUT${i}`, text(i + 20)));
      peer.misbehaves = cut;
      expect((await session()).outcome?.ok).toBe(false);
    }
    peer.misbehaves = {};
    expect((await session()).outcome?.ok).toBe(true);
    const arrived = peer.received.map(({ mid }) => mid).filter((mid) => !seen.has(mid));
    expect(arrived.sort()).toEqual(out.sort());
    expect((await box('inbox')).filter(({ mid }) => mid.startsWith('CUT'))).toHaveLength(6);
    expect([await box('outbox'), peer.waiting]).toEqual([[], []]);
  });

  it('what comes changed is not taken, and comes again', async () => {
    for (const [spoils, result] of [
      [
        (blocks: Buffer) =>
          Buffer.concat([blocks.subarray(0, -1), Buffer.from([(blocks.at(-1) as number) ^ 1])]),
        'wrong checksum',
      ],
      [() => Buffer.from('hello\r'), 'out of order'],
    ] as const) {
      peer.waiting = [peerMail('SPOILT')];
      peer.misbehaves = { spoils };
      expect((await session()).attempts[0]?.result).toBe(result);
      expect((await box('inbox')).some(({ mid }) => mid === 'SPOILT')).toBe(false);
    }
    peer.misbehaves = {};
    await session();
    expect((await box('inbox')).filter(({ mid }) => mid === 'SPOILT')).toHaveLength(1);
  });

  it('a server that stops in mid-session tells it as cut off, and goes on with what there was', async () => {
    const { mid } = await post({ subject: 'over the stop' });
    peer.misbehaves = { silentAt: 'turn' };
    const { body } = await server.ask<MailRunView>('POST', '/mail/sessions', {
      profileId: PROFILE,
      password: 'seabird',
    });
    await until('it to be taken', () => peer.received.some((one) => one.mid === mid));
    await server.close();
    server = await start();
    expect((await detail(body.id)).run).toMatchObject({ phase: 'over', outcome: { ok: false } });
    expect((await box('outbox')).map((one) => one.mid)).toEqual([mid]);
    peer.misbehaves = {};
    expect(await session()).toMatchObject({ out: [{ mid, state: 'had' }], outcome: { ok: true } });
    expect([await box('outbox'), peer.received.filter((one) => one.mid === mid).length]).toEqual([[], 1]);
  });
});

describe('the account', () => {
  const keep = (more: object): Promise<{ status: number; body: Record<string, unknown> }> =>
    server.ask('PUT', '/mail/account', more);

  it('is kept by a key in the data folder, and opens by itself after a restart', async () => {
    expect(await keep({ keeping: 'folder', password: 'seabird' })).toMatchObject({
      status: 200,
      body: { account: { keeping: 'folder', state: 'known', cameInClear: false } },
    });
    expect(readFileSync(join(folder, 'mail.key'), 'utf8')).toMatch(/^[0-9a-f]{64}$/);
    await server.close();
    server = await start();
    expect((await session({ password: undefined })).outcome?.ok).toBe(true);
    await until('the proof', async () =>
      (await desk()).account.provedAtMs === undefined ? undefined : true,
    );
    await server.close();
    server = await ServerUp.on(databaseUrl);
    expect((await desk()).account.state).toBe('locked');
    expect(await server.ask('POST', '/mail/sessions', { profileId: PROFILE })).toMatchObject({
      body: { reason: 'password-locked' },
    });
    await server.close();
    server = await start();
  });

  it('is kept by a passphrase, which nobody knows after a restart', async () => {
    expect(await keep({ keeping: 'passphrase', passphrase: 'short', password: 'seabird' })).toMatchObject({
      body: { field: 'passphrase' },
    });
    await keep({ keeping: 'passphrase', passphrase: 'gannets on the cliff', password: 'seabird' });
    await server.close();
    server = await start();
    expect((await desk()).account).toMatchObject({ keeping: 'passphrase', state: 'locked' });
    expect(await server.ask('POST', '/mail/account/unlock', { passphrase: 'another' })).toMatchObject({
      body: { reason: 'passphrase-wrong' },
    });
    expect(
      await server.ask('POST', '/mail/account/unlock', { passphrase: 'gannets on the cliff' }),
    ).toMatchObject({ body: { account: { state: 'known' } } });
    expect((await session({ password: undefined })).outcome?.ok).toBe(true);
    expect(await server.ask('DELETE', '/mail/account')).toMatchObject({
      body: { account: { state: 'none', keeping: 'asked' } },
    });
    expect(await keep({ keeping: 'folder' })).toMatchObject({ body: { field: 'password' } });
  });

  it('a first password that came in clear is masked wherever it is shown, must be changed, and the new one is proved', async () => {
    peer.challenge = undefined;
    peer.waiting = [
      peerMail('WELCOME', 'Welcome. Your password is: Reed4242. Change it soon.', { from: 'SERVICE' }),
    ];
    await session({ password: '' });
    const [row] = (await box('inbox')).filter(({ mid }) => mid === 'WELCOME') as [MailRow];
    const { body } = await server.ask<MailMessageView>('GET', `/mail/messages/${row.id}`);
    expect(body).toMatchObject({
      holdsPassword: true,
      text: 'Welcome. Your password is: ••••••. Change it soon.',
    });
    for (const way of ['eml'])
      expect(
        await (await fetch(`http://127.0.0.1:${server.port}/api/v1/mail/messages/${row.id}/${way}`)).text(),
      ).not.toMatch('Reed4242');
    await keep({ keeping: 'folder', fromMessage: row.id });
    expect((await desk()).account).toMatchObject({ state: 'known', cameInClear: true });
    peer.challenge = '23753528';
    peer.password = 'Reed4242';
    expect((await session({ password: undefined })).outcome?.ok).toBe(true);
    await keep({ keeping: 'folder', password: 'seabird' });
    const { account } = await desk();
    expect(account).toMatchObject({ cameInClear: false });
    expect(account.provedAtMs).toBeUndefined();
    peer.password = 'seabird';
    await session({ password: undefined });
    await until('the proof', async () =>
      (await desk()).account.provedAtMs === undefined ? undefined : true,
    );
  });
});

it('the self-test: posted with its number, taken, answered on the next connection', async () => {
  const order = (): Promise<{ body: { number: number; tag: string; mid: string } }> =>
    server.ask('POST', '/mail/self-tests', { chain: 'mobile – cable – modem' });
  const [one, two] = [(await order()).body, (await order()).body];
  expect(two.number).toBe(one.number + 1);
  await session();
  peer.waiting = [
    peerMail('REPLY', `Your message: Self-test ${two.tag}`, { from: 'TEST', subject: 'Re: Self-test' }),
  ];
  await session();
  const { selfTests } = await desk();
  expect(selfTests.find(({ number }) => number === two.number)).toMatchObject({
    sentAtMs: expect.any(Number),
    answeredAtMs: expect.any(Number),
  });
  expect(selfTests.find(({ number }) => number === one.number)).not.toHaveProperty('answeredAtMs');
  await server.close();
  server = await start();
  expect((await desk()).selfTests).toEqual(selfTests);
});

it('a demo call says not a word to what is no stand-in', async () => {
  await server.ask('PUT', '/operator', { ...OPERATOR, call: 'QH4MPK' });
  await choose({ profiles: [profile({ from: 'QH4MPK' })] });
  const run = await session();
  expect(run.attempts).toMatchObject([{ result: 'demo call', octetsIn: expect.any(Number) }]);
  expect(run.outcome?.means).toMatch('never leave stand-ins');
  expect(peer.heard).toBe('');
  peer.misbehaves = { banner: '# Mistpeak stand-in 1' };
  expect((await session()).outcome?.ok).toBe(true);
});

it('a watcher sees that there is mail and reads none of it, until he may', async () => {
  const page = server.follow();
  const snapshot = JSON.stringify(await page.find('snapshot'));
  page.close();
  expect(snapshot).toMatch('"waiting":0');
  expect(snapshot).not.toMatch(/lamps|QH7CTA|two left/);
});
