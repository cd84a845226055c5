import type { DataSource } from 'typeorm';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { MovedClock } from '../testing/moved-clock.js';
import { until } from '../testing/server-up.js';
import { FLUSH_EVERY_MS, FrameStore } from './frame-store.js';

/** Everything that waits for nothing but its turn has gone on. */
const settled = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

const frame = (i: number): FrameRecord => ({
  id: `00000000-0000-7000-8000-${String(i).padStart(12, '0')}`,
  atMs: Date.UTC(2026, 10, 1) + i,
  linkId: '00000000-0000-4000-8000-000000000000',
  direction: 'heard',
  port: 0,
  origin: 'kiss',
  rawHex: 'aa',
  stored: false,
});

/** The database's side of a transaction, here or away: what matters is when it fails, not what it stores. */
class Switchable {
  away = false;
  /** Frames with this text inside are never taken. */
  poison: string | undefined;
  /** How often it fails for a reason of its own before it takes something, frames with the poison aside. */
  unknownFaults = 0;
  poisonCode = '22P02';
  poisonAlongside = false;
  readonly inserted: string[] = [];

  transaction(
    work: (manager: { query: (sql: string, values?: unknown[]) => Promise<void> }) => Promise<void>,
  ): Promise<void> {
    return work({
      query: (sql, values) => {
        if (this.away) return Promise.reject(new Error('Connection terminated'));
        const isPoisoned = this.poison !== undefined && JSON.stringify(values)?.includes(this.poison);
        if (isPoisoned)
          return Promise.reject(Object.assign(new Error('invalid input'), { code: this.poisonCode }));
        if (sql.startsWith('INSERT INTO frames') && this.unknownFaults-- > 0)
          return Promise.reject(Object.assign(new Error('deadlock detected'), { code: '40P01' }));
        if (sql.startsWith('INSERT INTO frames')) this.inserted.push(...((values?.[0] ?? []) as string[]));
        return Promise.resolve();
      },
    });
  }
}

function storeOn(database: Switchable) {
  const told = { stored: 0, undone: 0, setAside: [] as string[], droppedAlongside: 0 };
  const clock = new MovedClock();
  const store = new FrameStore(database as unknown as DataSource, clock, {
    alongside: () =>
      database.poisonAlongside
        ? Promise.reject(Object.assign(new Error('invalid input'), { code: '22P05' }))
        : Promise.resolve(() => void told.undone++),
    dropAlongside: () => {
      told.droppedAlongside++;
      database.poisonAlongside = false;
    },
    setAside: (frames) => void told.setAside.push(...frames.map(({ id }) => id)),
    stored: (frames) => void (told.stored += frames.length),
  });
  return { store, told, clock };
}

describe('frames on their way to the database', () => {
  it('are written within a moment, in order', async () => {
    const database = new Switchable();
    const { store, told } = storeOn(database);
    for (let i = 0; i < 5000; i++) store.add(frame(i));
    await until('all stored', () => (told.stored === 5000 ? true : undefined));
    expect(database.inserted).toEqual(Array.from({ length: 5000 }, (_, i) => frame(i).id));
    expect([store.count(), store.dropped]).toEqual([0, 0]);
  });

  it('wait while it is away, up to a bound; then the oldest are dropped and counted', async () => {
    const database = new Switchable();
    database.away = true;
    const { store, told } = storeOn(database);
    for (let i = 0; i < 20_001; i++) store.add(frame(i));
    await store.flush();
    expect([store.count(), store.dropped, told.stored]).toEqual([19_901, 100, 0]);
    database.away = false;
    await store.flush();
    expect([store.count(), store.dropped, told.stored]).toEqual([0, 100, 19_901]);
    expect(database.inserted[0]).toBe(frame(100).id);
  });

  it('of a flooded link make room, and no others', async () => {
    const database = new Switchable();
    database.away = true;
    const { store, told } = storeOn(database);
    const quiet = { ...frame(0), linkId: '11111111-0000-4000-8000-000000000000' };
    for (let i = 0; i < 50; i++) store.add({ ...quiet, id: frame(900_000 + i).id });
    for (let i = 0; i < 25_000; i++) store.add(frame(i));
    expect([...store.droppedOf]).toEqual([frame(0).linkId]);
    database.away = false;
    await store.flush();
    expect(database.inserted.slice(0, 50)).toEqual(
      Array.from({ length: 50 }, (_, i) => frame(900_000 + i).id),
    );
    expect(told.stored + store.dropped).toBe(25_050);
  });

  it.each([0, 2, 3, 6])(
    'that it never takes, as number %i of seven, are set aside and hold up no other',
    async (at) => {
      const database = new Switchable();
      database.poison = frame(at).id;
      const { store, told } = storeOn(database);
      for (let i = 0; i < 7; i++) store.add(frame(i));
      await store.flush();
      expect(told).toMatchObject({ stored: 6, setAside: [frame(at).id], droppedAlongside: 0 });
      expect(database.inserted).toEqual(
        [0, 1, 2, 3, 4, 5, 6].filter((i) => i !== at).map((i) => frame(i).id),
      );
      expect([store.count(), store.trouble]).toEqual([0, undefined]);
    },
  );

  it('that fail for another reason are tried three times, told meanwhile, then set aside; the rest goes on', async () => {
    const database = new Switchable();
    database.poison = frame(1).id;
    database.poisonCode = '42P01';
    const { store, told } = storeOn(database);
    for (let i = 0; i < 4; i++) store.add(frame(i));
    for (let tries = 0; tries < 2; tries++) {
      await store.flush();
      expect([told.stored, store.trouble?.trouble]).toEqual([0, 'other']);
    }
    await store.flush();
    expect(told).toMatchObject({ stored: 3, setAside: [frame(1).id] });
    expect([store.count(), store.trouble]).toEqual([0, undefined]);
  });

  it('that met another at work are stored at the next try, and nothing is set aside', async () => {
    const database = new Switchable();
    database.unknownFaults = 2;
    const { store, told } = storeOn(database);
    store.add(frame(0));
    for (let tries = 0; tries < 3; tries++) await store.flush();
    expect(told).toMatchObject({ stored: 1, setAside: [] });
  });

  it('are stored though what goes alongside never is', async () => {
    const database = new Switchable();
    database.poisonAlongside = true;
    const { store, told } = storeOn(database);
    for (let i = 0; i < 3; i++) store.add(frame(i));
    await store.flush();
    expect(told).toMatchObject({ stored: 3, setAside: [], droppedAlongside: 1 });
  });

  it('tell why they wait, as long as they do', async () => {
    const database = new Switchable();
    database.away = true;
    const { store } = storeOn(database);
    store.add(frame(1));
    await store.flush();
    expect(store.trouble).toEqual({ trouble: 'away', detail: 'Connection terminated' });
    database.away = false;
    await store.flush();
    expect(store.trouble).toBeUndefined();
  });

  it('are tried again by themselves', async () => {
    const database = new Switchable();
    database.away = true;
    const { store, told, clock } = storeOn(database);
    store.add(frame(1));
    clock.pass(FLUSH_EVERY_MS);
    await until('the first try', () => store.trouble);
    database.away = false;
    // After a second, and not before.
    clock.pass(900);
    await settled();
    expect(told.stored).toBe(0);
    clock.pass(100);
    await settled();
    expect(told.stored).toBe(1);
  });

  it('that come while some are being written wait for the next time, and none is written twice', async () => {
    const database = new Switchable();
    const { store, told } = storeOn(database);
    store.add(frame(0));
    const first = store.flush();
    store.add(frame(1));
    await Promise.all([first, store.flush(), store.flush()]);
    expect(database.inserted).toEqual([frame(0).id, frame(1).id]);
    expect(told.stored).toBe(2);
  });
});
