import { fromLibrary } from '@mistpeak/core/kit/library';
import { formatKit } from '@mistpeak/core/kit/kit-file';
import { BACK_FOR_MS } from '@mistpeak/contract/removals';
import type { Snapshot } from '@mistpeak/contract/live';
import type { LiveService } from '../live/live.service.js';
import { freePort } from '../testing/free-port.js';
import { MovedClock } from '../testing/moved-clock.js';
import { BEACON, linkTo, makeDatabase, OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';
import { RemovalsService } from './removals.service.js';

describe('what is removed', () => {
  let server: ServerUp;
  let databaseUrl: string;
  const clock = new MovedClock();
  const snapshot = async (): Promise<Snapshot> => {
    const page = server.follow();
    const data = await page.find('snapshot');
    page.close();
    return data;
  };
  const bringBack = async (): Promise<number> => {
    const [removal] = (await snapshot()).removals;
    return (await server.ask('POST', `/removals/${removal?.id}/back`)).status;
  };
  const add = async (path: string, body: unknown): Promise<string> =>
    (await server.ask<{ id: string }>('POST', path, body)).body.id;

  beforeAll(async () => {
    databaseUrl = await makeDatabase();
    server = await ServerUp.on(databaseUrl, { clock });
    await server.ask('PUT', '/operator', OPERATOR);
  });
  afterAll(() => server.close());

  /** Each thing: how it is made, where it is removed, and how one sees that it is there. */
  const THINGS: Readonly<
    Record<string, readonly [() => Promise<string>, string, (now: Snapshot, id: string) => boolean]>
  > = {
    item: [
      () => add('/kit/items', { item: fromLibrary('fm-mobile') }),
      '/kit/items',
      ({ kit }, id) => kit.items.some((one) => one.id === id),
    ],
    chain: [
      () =>
        add('/chains', {
          name: '',
          purpose: 'beacon',
          parts: [fromLibrary('tnc-handheld')],
          antenna: '',
          isMoving: false,
          schools: {},
        }),
      '/chains',
      ({ chains }, id) => chains.some((one) => one.id === id),
    ],
    station: [
      () =>
        add('/own-stations', { ssid: 7, role: '', device: 'handheld', symbolTable: '/', symbolCode: '[' }),
      '/own-stations',
      ({ ownStations }, id) => ownStations.some((one) => one.id === id),
    ],
    link: [
      async () => add('/links', linkTo(await freePort())),
      '/links',
      ({ links }, id) => links.some((one) => one.id === id),
    ],
  };

  it.each(Object.entries(THINGS))(
    '%s: is gone at once, comes back within the minute, and not after it',
    async (_, thing) => {
      const [make, path, isThere] = thing;
      const id = await make();
      expect(isThere(await snapshot(), id)).toBe(true);
      // Pressed twice, it is removed once.
      await server.ask('DELETE', `${path}/${id}`);
      await server.ask('DELETE', `${path}/${id}`);
      expect(isThere(await snapshot(), id)).toBe(false);
      expect((await snapshot()).removals).toHaveLength(1);
      clock.pass(BACK_FOR_MS - 1000);
      expect(await bringBack()).toBe(204);
      expect(isThere(await snapshot(), id)).toBe(true);
      expect((await snapshot()).removals).toEqual([]);

      await server.ask('DELETE', `${path}/${id}`);
      const [removal] = (await snapshot()).removals;
      clock.pass(BACK_FOR_MS);
      await until('it is gone', async () => ((await snapshot()).removals.length === 0 ? true : undefined));
      expect(isThere(await snapshot(), id)).toBe(false);
      expect((await server.ask('POST', `/removals/${removal?.id}/back`)).status).toBe(404);
    },
  );

  it('cannot be changed while it leaves', async () => {
    const station = { ssid: 3, role: '', device: 'hut', symbolTable: '/', symbolCode: '-' };
    const id = await add('/own-stations', station);
    await server.ask('DELETE', `/own-stations/${id}`);
    expect((await server.ask('PUT', `/own-stations/${id}`, station)).status).toBe(404);
    const item = await add('/kit/items', { item: fromLibrary('laptop') });
    await server.ask('DELETE', `/kit/items/${item}`);
    expect((await server.ask('PUT', `/kit/items/${item}`, { item: fromLibrary('laptop') })).status).toBe(404);
    clock.pass(BACK_FOR_MS);
    await until('both are gone', async () => ((await snapshot()).removals.length === 0 ? true : undefined));
  });

  it('a chain keeps its ticks', async () => {
    const [make, path] = THINGS.chain as (typeof THINGS)[string];
    const id = await make();
    await server.ask('POST', `${path}/${id}/ticks`, { stepId: 's', isDone: true, measured: '', note: '' });
    await server.ask('DELETE', `${path}/${id}`);
    await bringBack();
    expect((await snapshot()).ticks.some(({ chainId }) => chainId === id)).toBe(true);
  });

  it('the whole kit comes back after a file took its place', async () => {
    const [make, , isThere] = THINGS.item as (typeof THINGS)[string];
    const id = await make();
    await server.ask('PUT', '/kit', { file: formatKit([fromLibrary('phone')]) });
    expect(isThere(await snapshot(), id)).toBe(false);
    expect((await snapshot()).removals).toMatchObject([{ words: 'the kit of before' }]);
    expect(await bringBack()).toBe(204);
    expect(isThere(await snapshot(), id)).toBe(true);
    expect((await snapshot()).kit.items.some(({ id: one }) => one === 'phone')).toBe(false);
  });

  it('an item that a file brings again meanwhile stays', async () => {
    const [make, path, isThere] = THINGS.item as (typeof THINGS)[string];
    const id = await make();
    const { kit } = await snapshot();
    await server.ask('DELETE', `${path}/${id}`);
    await server.ask('PUT', '/kit', { file: formatKit(kit.items) });
    expect(isThere(await snapshot(), id)).toBe(true);
    clock.pass(BACK_FOR_MS);
    await until('nothing leaves', async () => ((await snapshot()).removals.length === 0 ? true : undefined));
    expect(isThere(await snapshot(), id)).toBe(true);
  });

  it('a station that this program transmits as meanwhile stays', async () => {
    const [, path, isThere] = THINGS.station as (typeof THINGS)[string];
    const id = await add('/own-stations', {
      ssid: 9,
      role: '',
      device: 'cart',
      symbolTable: '/',
      symbolCode: '>',
    });
    await server.ask('DELETE', `${path}/${id}`);
    await server.ask('PUT', '/beacon', { ...BEACON, source: `${TEST_CALL}-9` });
    expect(isThere(await snapshot(), id)).toBe(true);
    clock.pass(BACK_FOR_MS);
    await until('nothing leaves', async () => ((await snapshot()).removals.length === 0 ? true : undefined));
    expect(isThere(await snapshot(), id)).toBe(true);
  });

  it('is gone after a stop in that minute', async () => {
    const [make, path, isThere] = THINGS.item as (typeof THINGS)[string];
    const id = await make();
    await server.ask('DELETE', `${path}/${id}`);
    await server.close();
    server = await ServerUp.on(databaseUrl, { clock });
    expect(isThere(await snapshot(), id)).toBe(false);
    expect((await snapshot()).removals).toEqual([]);
  });
});

it('a removal that fails at once is none', async () => {
  const clock = new MovedClock();
  const live = { contribute: () => undefined, publish: () => undefined } as unknown as LiveService;
  const removals = new RemovalsService(live, clock);
  const finished: string[] = [];
  const removal = {
    key: 'a',
    words: 'a',
    changed: () => Promise.reject(new Error('the database is away')),
    finish: () => Promise.resolve(void finished.push('a')),
  };
  await expect(removals.remove(removal)).rejects.toThrow('away');
  expect(removals.isLeaving('a')).toBe(false);
  clock.pass(BACK_FOR_MS);
  expect(finished).toEqual([]);
});
