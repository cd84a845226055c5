import { randomUUID } from 'node:crypto';
import type { LevelResult, NewLevelResult } from '@mistpeak/contract/levels';
import { linkedBench } from '../testing/linked-bench.js';
import { OPERATOR, ServerUp, TEST_CALL } from '../testing/server-up.js';

const bench = linkedBench();
const RESULT: NewLevelResult = {
  check: 'receive',
  words: 'The level is in the window.',
  number: '−16 dBFS, 20 packets of 7 stations',
  turn: 'Leave it as it is.',
  isInWindow: true,
  levelDbfs: -16.2,
};

const add = (more: Partial<NewLevelResult> = {}, linkId: string | undefined = bench.link.id) =>
  bench.server.ask<LevelResult>('POST', '/levels/results', { ...RESULT, ...(linkId && { linkId }), ...more });

describe('what a check came to', () => {
  it('is kept and told to every page; one in the window lights the rung, one beside it speaks against it', async () => {
    const page = bench.server.follow();
    await page.find('snapshot');
    expect(await add()).toMatchObject({ status: 201, body: { ...RESULT, linkId: bench.link.id } });
    expect(await page.find('evidence', ({ rung }) => rung === 'level in the window')).toMatchObject({
      kind: 'measurement',
      words: RESULT.number,
    });
    await add({ words: '9 dB under the window.', isInWindow: false });
    expect(await page.find('evidence', ({ kind }) => kind === 'spoilt')).toMatchObject({
      rung: 'level in the window',
      words: `9 dB under the window. ${RESULT.number}`,
    });
    await add({ check: 'radio was off', words: 'The radio was off.' });
    await page.find('evidence', ({ words }) => words === 'The radio was off.');
    expect(await page.find('level-results', (all) => all.length === 3)).toMatchObject([
      { check: 'radio was off' },
      { isInWindow: false },
      { isInWindow: true },
    ]);
    page.close();
  });

  it('of other checks, or of no link, proves nothing; what is no result is refused', async () => {
    const page = bench.server.follow();
    const { evidence } = await page.find('snapshot');
    await add({ check: 'sweep', isInWindow: true });
    await bench.server.ask('POST', '/levels/results', RESULT);
    expect(await add({ check: 'guess' as never })).toMatchObject({ status: 400 });
    expect(await add({ levelDbfs: 21 })).toMatchObject({ status: 400 });
    expect(await add({}, randomUUID())).toMatchObject({ status: 404 });
    expect(page.events.filter(({ kind }) => kind === 'evidence')).toEqual([]);
    expect(evidence.filter(({ rung }) => rung === 'level in the window')).toHaveLength(3);
    page.close();
  });

  it('is there after a restart', async () => {
    await bench.server.close();
    bench.server = await ServerUp.on(bench.databaseUrl);
    const page = bench.server.follow();
    const { levelResults } = await page.find('snapshot');
    expect(levelResults).toHaveLength(5);
    expect(levelResults.at(-1)).toMatchObject({ ...RESULT, linkId: bench.link.id });
    page.close();
    await bench.peer.got('c00500c0');
  });
});

describe('a test packet', () => {
  const send = (more: object = {}) =>
    bench.server.ask('POST', '/levels/tests', {
      linkId: bench.link.id,
      number: 1,
      text: 'at -18 dBFS',
      ...more,
    });

  it('stands behind the lock, and bears the call that armed it', async () => {
    await bench.server.ask('PUT', '/operator', OPERATOR);
    expect(await send()).toMatchObject({ status: 409, body: { reason: 'not-armed' } });
    await bench.server.ask('PUT', `/links/${bench.link.id}/lock`, { call: `${TEST_CALL}-7` });
    expect(await send()).toMatchObject({ status: 200, body: { source: `${TEST_CALL}-7`, purpose: 'test' } });
    // To APZMPK (command), from 1X9TST-7, UI, F0: octets of AX.25 2.2, 3.12.
    await bench.peer.got(
      `c00082a0b49aa096e062b072a8a6a86f03f0${Buffer.from('>test 1 at -18 dBFS').toString('hex')}c0`,
    );
  });

  it('that is none is refused, and stopping takes back what waits', async () => {
    for (const wrong of [{ number: 0 }, { number: 100 }, { text: 'ü' }, { levelDbfs: 1 }])
      expect(await send(wrong)).toMatchObject({ status: 400 });
    expect(await bench.server.ask('POST', `/levels/tests/${bench.link.id}/stop`)).toMatchObject({
      status: 204,
    });
  });
});
