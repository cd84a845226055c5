import { randomUUID } from 'node:crypto';
import type { SessionView } from '@mistpeak/contract/sessions';
import { CallingBench, ME, PARAMETERS } from '../testing/calling-bench.js';

const rig = new CallingBench();
const { bench, clock } = rig;

describe('what may not be called', () => {
  it('waits for the lock, and is refused at its field', async () => {
    expect(await bench.server.ask('POST', '/sessions', rig.called('1X9FAR'))).toMatchObject({
      body: { reason: 'not-armed' },
    });
    await rig.arm();
    for (const [more, field] of [
      [{ to: 'TOOLONGCALL' }, 'to'],
      [{ to: ME }, 'to'],
      [{ via: 'WIDE1-1' }, 'via'],
      [{ parameters: { ...PARAMETERS, window8: 8 } }, 'parameters'],
      [{ parameters: { ...PARAMETERS, packetOctets: 0 } }, 'parameters'],
    ] as const)
      expect(await bench.server.ask('POST', '/sessions', rig.called('1X9FAR', more))).toMatchObject({
        status: 400,
        body: { field },
      });
    expect(
      await bench.server.ask('POST', '/sessions', rig.called('1X9FAR', { from: `${ME}-5` })),
    ).toMatchObject({
      body: { reason: 'armed-for-another-call' },
    });
  });
});

describe('a session', () => {
  it('is these octets, from the call to the end', async () => {
    const far = rig.station('HUT', ME);
    const { id } = (await bench.server.ask<SessionView>('POST', '/sessions', rig.called('HUT'))).body;
    // HUT, then 1X9TST with the end bit; SABM with P (AX.25 v2.2, 3.12, 4.3.3.1).
    await bench.peer.got('c00090aaa84040 40e062b072a8a6a8613fc0'.replace(' ', ''));
    bench.peer.send('c00062b072a8a6a86090aaa8404040e173c0'); // UA with F
    await rig.once(id, 'the connection', ({ phase }) => phase === 'connected');
    await rig.say(id, 'L\r');
    await bench.peer.got('c00090aaa8404040e062b072a8a6a86100f04c0dc0'); // I 0 0
    bench.peer.send('c00062b072a8a6a8e090aaa840404061 20f06f6b0dc0'.replace(' ', '')); // I 0 1, "ok"
    await bench.peer.got('c00090aaa84040406062b072a8a6a8e121c0'); // RR 1, a response
    await bench.server.ask('POST', `/sessions/${id}/disconnect`);
    await bench.peer.got('c00090aaa8404040e062b072a8a6a86153c0'); // DISC with P
    far.ua();
    expect(await rig.once(id, 'its end', ({ phase }) => phase === 'disconnected')).toMatchObject({
      outcome: 'ended here',
      confirmedOctets: 2,
      heardOctets: 3,
    });
    expect((await rig.said(id)).map(({ side, hex }) => `${side} ${hex}`)).toEqual([
      'mine 4c0d',
      'theirs 6f6b0d',
    ]);
  });

  it('lights its rungs', async () => {
    const page = bench.server.follow();
    const { evidence } = await page.find('snapshot');
    page.close();
    const rungs = evidence.map(({ rung, words }) => `${rung}: ${words}`);
    expect(rungs).toContainEqual(
      expect.stringMatching(/^far station answered: HUT answered our call after \d+ s$/),
    );
    expect(rungs).toContain('data both ways: text of HUT read, and ours acknowledged');
  });

  it('asked twice under one id is one; a second with the same station is refused while it stands', async () => {
    const both = await rig.connected();
    const id = randomUUID();
    const ask = (): Promise<Response> =>
      fetch(`http://127.0.0.1:${bench.server.port}/api/v1/sessions/${both.id}/say`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'command-id': id },
        body: JSON.stringify({ base64: Buffer.from('once\r').toString('base64') }),
      });
    await Promise.all([ask(), ask()]);
    await both.far.expect('I 0 0:once\r');
    expect(await bench.server.ask('POST', '/sessions', rig.called(both.far.call))).toMatchObject({
      body: { reason: 'session-stands' },
    });
    both.far.supervisory('RR', 1);
    await rig.once(both.id, 'it', ({ confirmedOctets }) => confirmedOctets === 5);
    expect(both.far.pendingWords()).toEqual([]);
    await rig.ended(both);
    expect(await bench.server.ask('POST', `/sessions/${both.id}/say`, { base64: 'eA==' })).toMatchObject({
      body: { reason: 'session-over' },
    });
  });

  it('goes by way of digipeaters, and back', async () => {
    const { id, far } = await rig.calling({ via: '1X9DIG,1X9DIH-2' }, ['1X9DIH-2', '1X9DIG']);
    await far.expect('SABM P');
    expect(far.heard()[0]?.via).toEqual(['1X9DIG', '1X9DIH-2']);
    far.ua();
    await rig.once(id, 'the connection', ({ phase }) => phase === 'connected');
    await rig.ended({ id, far });
  });

  it.each([
    [{ packetOctets: 1, window8: 1 }, 'abc', ['I 0 0:a']],
    [
      { packetOctets: 1, window8: 7 },
      'abcdefghi',
      ['I 0 0:a', 'I 1 0:b', 'I 2 0:c', 'I 3 0:d', 'I 4 0:e', 'I 5 0:f', 'I 6 0:g'],
    ],
    [
      { packetOctets: 256, window8: 4 },
      'x'.repeat(300),
      [`I 0 0:${'x'.repeat(256)}`, `I 1 0:${'x'.repeat(44)}`],
    ],
  ])('%j: a window of frames, then it waits', async (more, text, frames) => {
    const both = await rig.connected({ parameters: { ...PARAMETERS, ...more } });
    await rig.say(both.id, text);
    await both.far.expect(...frames);
    const { queuedOctets, sentOctets } = await rig.view(both.id);
    expect([queuedOctets, sentOctets]).toEqual([
      text.length,
      frames.reduce((sum, one) => sum + one.length - 6, 0),
    ]);
    await rig.ended(both);
  });

  it('tells what the far end asks for, until something is said', async () => {
    const both = await rig.connected();
    both.far.i(0, 0, 'login: mpk\rPassword: ');
    expect((await rig.once(both.id, 'the question', ({ asked }) => asked !== undefined)).asked).toEqual({
      kind: 'password',
    });
    await rig.say(both.id, 'x\r');
    expect((await rig.view(both.id)).asked).toBeUndefined();
    await rig.ended(both);
  });

  it('parameters changed while it stands count from the next frame on', async () => {
    const both = await rig.connected();
    const { status } = await bench.server.ask('PUT', `/sessions/${both.id}/parameters`, {
      ...PARAMETERS,
      packetOctets: 2,
    });
    expect(status).toBe(200);
    await rig.say(both.id, 'abc');
    await both.far.expect('I 0 0:ab', 'I 1 0:c');
    await rig.ended(both);
  });
});

describe('what goes wrong', () => {
  it('REJ: all from there again; SREJ: that one; duplicates are acknowledged and not shown twice', async () => {
    const both = await rig.connected();
    await rig.say(both.id, 'a');
    await rig.say(both.id, 'b');
    await both.far.expect('I 0 0:a', 'I 1 0:b');
    both.far.supervisory('REJ', 0);
    await both.far.expect('I 0 0:a', 'I 1 0:b');
    both.far.supervisory('SREJ', 1);
    await both.far.expect('I 1 0:b');
    both.far.i(0, 2, 'hi');
    await both.far.expect('RR 1');
    both.far.i(0, 2, 'hi');
    // Out of its turn, as far as numbers tell: what is expected is said again.
    await both.far.expect('REJ 1');
    expect(await rig.heardText(both.id)).toBe('hi');
    expect((await rig.view(both.id)).quality).toMatchObject({ framesSent: 5, rejected: 2, rejects: 1 });
    await rig.ended(both);
  });

  it('RNR: it waits, asks, and goes on', async () => {
    const both = await rig.connected();
    await rig.say(both.id, 'a');
    await both.far.expect('I 0 0:a');
    both.far.supervisory('RNR', 1);
    await rig.once(both.id, 'RNR', ({ peerBusy }) => peerBusy);
    await rig.say(both.id, 'b');
    clock.pass(12_000);
    await both.far.expect('RR 0 P');
    expect((await rig.view(both.id)).quality.busyMs).toBeGreaterThanOrEqual(12_000);
    both.far.supervisory('RR', 1, 'response', true);
    await both.far.expect('I 1 0:b');
    await rig.ended(both);
  });

  it('FRMR: the link is set up anew, and what was lost is said', async () => {
    const both = await rig.connected();
    await rig.say(both.id, 'abc');
    await both.far.expect('I 0 0:abc');
    both.far.frmr();
    await both.far.expect('SABM P');
    clock.pass(2000);
    both.far.ua();
    const now = await rig.once(both.id, 'the new life', ({ phase }) => phase === 'connected');
    expect(now.lost).toEqual([{ fromOctet: 0, toOctet: 3 }]);
    await rig.say(both.id, 'd');
    await both.far.expect('I 0 0:d');
    both.far.supervisory('RR', 1);
    expect((await rig.once(both.id, 'it', ({ confirmedOctets }) => confirmedOctets === 4)).queuedOctets).toBe(
      4,
    );
    await rig.ended(both);
  });

  it('DM: refused, or ended', async () => {
    const { id, far } = await rig.calling();
    await far.expect('SABM P');
    far.dm();
    expect((await rig.once(id, 'the refusal', ({ phase }) => phase === 'disconnected')).outcome).toMatch(
      /is there and refuses/,
    );
    const both = await rig.connected();
    both.far.dm();
    expect((await rig.once(both.id, 'its end', ({ phase }) => phase === 'disconnected')).outcome).toBe(
      `ended by ${both.far.call}`,
    );
  });

  it('a lost UA: it calls again, and tells the tries', async () => {
    const { id, far } = await rig.calling();
    await far.expect('SABM P');
    expect((await rig.view(id)).trying).toMatchObject({ attempt: 1, of: 4 });
    clock.pass(12_000);
    await far.expect('SABM P');
    expect(await rig.once(id, 'the second', ({ trying }) => trying?.attempt === 2)).toMatchObject({
      phase: 'awaiting connection',
    });
    clock.pass(2000);
    far.ua();
    far.ua();
    await rig.once(id, 'the connection', ({ phase }) => phase === 'connected');
    await rig.ended({ id, far });
  });

  it('silence while it is called, while it stands, and while it ends', async () => {
    const silent = await rig.calling();
    for (let i = 0; i < 4; i++) {
      await silent.far.expect('SABM P');
      clock.pass(40_000);
    }
    expect(await rig.once(silent.id, 'the end', ({ phase }) => phase === 'disconnected')).toMatchObject({
      outcome: `no answer from ${silent.far.call}`,
      wasEchoed: false,
    });
    const both = await rig.connected();
    await rig.say(both.id, 'a');
    await both.far.expect('I 0 0:a');
    for (let i = 0; i < 3; i++) {
      clock.pass(40_000);
      await both.far.expect('RR 0 P');
    }
    clock.pass(40_000);
    await both.far.expect('DM');
    expect(await rig.once(both.id, 'the end', ({ phase }) => phase === 'disconnected')).toMatchObject({
      outcome: `lost: ${both.far.call} did not answer any more`,
      lost: [{ fromOctet: 0, toOctet: 1 }],
    });
    const leaving = await rig.connected();
    await bench.server.ask('POST', `/sessions/${leaving.id}/disconnect`);
    await leaving.far.expect('DISC P');
    await bench.server.ask('POST', `/sessions/${leaving.id}/disconnect`);
    await rig.once(leaving.id, 'the end', ({ phase }) => phase === 'disconnected');
  });

  it('an idle link is asked whether it is there', async () => {
    const both = await rig.connected({ parameters: { ...PARAMETERS, t3Ms: 60_000 } });
    clock.pass(60_000);
    await both.far.expect('RR 0 P');
    both.far.supervisory('RR', 0, 'response', true);
    await rig.once(both.id, 'its answer', ({ phase }) => phase === 'connected');
    await rig.ended(both);
  });

  it('a closed lock keeps what is sent from leaving, and is told', async () => {
    const both = await rig.connected();
    await rig.lock();
    await rig.say(both.id, 'a');
    expect((await rig.once(both.id, 'the trouble', ({ trouble }) => trouble !== undefined)).trouble).toBe(
      'The transmitter is locked.',
    );
    await rig.arm();
    clock.pass(12_000);
    await both.far.waitFor('RR 0 P');
    both.far.supervisory('RR', 0, 'response', true);
    await both.far.expect('I 0 0:a');
    await rig.ended(both);
  });
});

describe('calls from others', () => {
  it('are refused by DM as the station in force; whoever believes in a session that is over is told', async () => {
    const far = rig.station('1X9CLR', ME);
    far.sabm();
    await far.expect('DM F');
    far.i(0, 0, 'are you there?', true);
    await far.expect('DM F');
    const other = rig.station('1X9CLR', `${ME}-3`);
    other.sabm();
    const stranger = rig.station('1X9CLR', '1X9XXX');
    stranger.sabm();
    far.sabm();
    await far.expect('DM F');
    expect([other.heard(), stranger.heard()]).toEqual([[], []]);
  });
});
