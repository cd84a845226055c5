import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1, toHex } from '@mistpeak/core/bits/octets';
import type { OwnObjectView } from '@mistpeak/contract/own-objects';
import { linkedBench } from '../testing/linked-bench.js';
import { MovedClock } from '../testing/moved-clock.js';
import { OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';

const MINUTE = 60_000;
const clock = new MovedClock();
const bench = linkedBench({ clock });
const settings = (more: object = {}): object => ({
  linkId: bench.link.id,
  source: `${TEST_CALL}-7`,
  kind: 'object',
  name: 'SOUP',
  place: '29.6 S 11.4 W',
  symbolTable: '\\',
  symbolCode: 'R',
  comment: 'until seven',
  path: 'WIDE2-1',
  everyMin: 10,
  ...more,
});
const put = async (more: object = {}, id?: string): Promise<{ status: number; body: OwnObjectView }> =>
  bench.server.ask<OwnObjectView>(
    id ? 'PUT' : 'POST',
    id ? `/own-objects/${id}` : '/own-objects',
    settings(more),
  );
const views = async (): Promise<OwnObjectView[]> =>
  (await bench.server.ask<OwnObjectView[]>('GET', '/own-objects')).body;
const arm = (): Promise<unknown> =>
  bench.server.ask('PUT', `/links/${bench.link.id}/lock`, { call: `${TEST_CALL}-7` });
const timesSent = (text: string): number =>
  bench.peer.everything().split(Buffer.from(text, 'latin1').toString('hex')).length - 1;
const sentOnce = (text: string, times: number): Promise<true> =>
  until(`${text} ${times} times`, () => (timesSent(text) >= times ? true : undefined));
const hear = (source: string, info: string): void =>
  bench.peer.send(`c000${toHex(encodeFrame(uiFrame(source, 'APZMPK', [], fromLatin1(info))))}c0`);
const phaseOnce = (phase: string): Promise<OwnObjectView> =>
  until(phase, async () => (await views()).find(({ state }) => state.phase === phase));

beforeAll(() => bench.server.ask('PUT', '/operator', OPERATOR));
let id = '';

it.each([
  [{ name: '' }],
  [{ name: 'TENLETTERS' }],
  [{ kind: 'item', name: 'A!B' }],
  [{ kind: 'item', name: 'AB' }],
  [{ kind: 'thing' }],
  [{ place: 'nowhere' }],
  [{ path: 'RELAY' }],
  [{ everyMin: 4 }],
  [{ comment: 'x'.repeat(44) }],
  [{ source: 'QH7CTA' }],
])('refuses %j', async (more) => {
  expect((await put(more)).status).toBeGreaterThanOrEqual(400);
  expect(await views()).toEqual([]);
});

it('waits for the lock, and leaves as soon as it is open; then again after a minute', async () => {
  const { status, body } = await put();
  id = body.id;
  expect([status, body.state]).toEqual([201, { phase: 'told', times: 0, isHeld: true }]);
  expect(timesSent(';SOUP')).toBe(0);
  await arm();
  await sentOnce(';SOUP     *', 1);
  await until(
    'counted',
    async () => ((await views())[0]?.state as { times?: number } | undefined)?.times === 1 || undefined,
  );
  expect(timesSent(';SOUP')).toBe(1);
  clock.pass(MINUTE);
  await sentOnce(';SOUP     *', 2);
});

it('moved it is told at once; of two forms the older is refused; a name stands once', async () => {
  const [known] = await views();
  expect((await put({ place: '29.7 S 11.4 W', version: known?.version }, id)).status).toBe(200);
  await sentOnce('2942.00S', 1);
  expect(bench.peer.everything()).toContain(Buffer.from('2942.00S', 'latin1').toString('hex'));
  expect((await put({ version: known?.version }, id)).status).toBe(409);
  expect((await put()).status).toBe(400);
});

it('a restart goes on with it', async () => {
  await bench.server.close();
  bench.server = await ServerUp.on(bench.databaseUrl, { clock });
  expect((await views())[0]?.state.phase).toBe('told');
});

it('whoever else tells it has taken it over, our own call has not', async () => {
  await until('open', async () =>
    ['hearing', 'silent'].includes(
      (await bench.server.ask<{ phase: string }[]>('GET', '/links')).body[0]?.phase ?? '',
    )
      ? true
      : undefined,
  );
  hear(`${TEST_CALL}-9`, ';SOUP     *181530z2936.00S\\01124.00WRours');
  hear('1X9OTH', ';LAMPS    *181530z2936.00S\\01124.00WRother');
  hear('1X9OTH', ';SOUP     *181530z2936.00S\\01124.00WRtheirs');
  const taken = await phaseOnce('taken');
  expect(taken.state).toEqual({ phase: 'taken', by: '1X9OTH' });
});

it('put again, then killed: three times it is told that it is gone, then it can be forgotten', async () => {
  await arm();
  const [known] = await views();
  await put({ version: known?.version }, id);
  await until(
    'told',
    async () => ((await views())[0]?.state as { times?: number } | undefined)?.times === 1 || undefined,
  );
  await bench.server.ask('POST', `/own-objects/${id}/kill`);
  for (let times = 1; times <= 3; times++) {
    await sentOnce(';SOUP     _', times);
    await until('counted', async () => {
      const [one] = await views();
      return one?.state.phase === 'gone' || (one?.state as { times?: number } | undefined)?.times === times
        ? true
        : undefined;
    });
    clock.pass(MINUTE);
  }
  expect((await phaseOnce('gone')).name).toBe('SOUP');
  expect((await bench.server.ask('DELETE', `/own-objects/${id}`)).status).toBe(204);
  expect(await views()).toEqual([]);
  expect((await bench.server.ask('POST', `/own-objects/${id}/kill`)).status).toBe(404);
});
