import pg from 'pg';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { LinkView } from '@mistpeak/contract/link';
import { STATUS_HEX } from '../testing/kiss-peer.js';
import { linkedBench } from '../testing/linked-bench.js';
import { ServerUp, until } from '../testing/server-up.js';
import { monthOf, nextMonth } from './partitions.js';

const bench = linkedBench();

const stored = async (count: number): Promise<FrameRecord[]> =>
  until(`${count} stored frames`, async () => {
    const { body } = await bench.server.ask<FrameRecord[]>('GET', '/frames');
    return body.length >= count ? body : undefined;
  });

describe('what comes in', () => {
  it('opens with the KISS parameters, literally', async () => {
    expect(await bench.peer.got('c00500c0')).toBe('c0011ec0c0023fc0c0030ac0c00403c0c00500c0');
  });

  it('is shown at once, then marked stored, with its station', async () => {
    const page = bench.server.follow();
    await page.find('snapshot');
    bench.peer.send(STATUS_HEX);
    const frame = await page.find('frame');
    expect(frame).toMatchObject({
      stored: false,
      direction: 'heard',
      linkId: bench.link.id,
      rawHex: STATUS_HEX.slice(4, -2),
    });
    expect(await page.find('stored')).toContain(frame.id);
    page.close();
  });

  it('that is no frame is kept and counted by its reason', async () => {
    const page = bench.server.follow();
    await page.find('snapshot');
    // a bad escape, an unknown command, a TNC that sends parameters, no AX.25, and an info that is no APRS
    bench.peer.send(
      'c00041db4142c0 c007aac0 c0011ec0 c0000102c0 c00082a0b49aa096e09c60868298986f03f068656c6c6fc0',
    );
    const tally = await page.find('tally', ({ troubles }) => troubles.length === 5);
    expect(tally.troubles.map(({ reason, count }) => [reason, count]).sort()).toEqual([
      ['bad escape', 1],
      ['not APRS', 1],
      ['not AX.25', 1],
      ['unexpected command', 1],
      ['unknown command', 1],
    ]);
    const frames = await stored(6);
    expect(frames.find(({ trouble }) => trouble === 'not AX.25')?.rawHex).toBe('0102');
    page.close();
  });

  it('is there after a restart, with its tallies and stations', async () => {
    await stored(6);
    await bench.server.close();
    bench.server = await ServerUp.on(bench.databaseUrl);
    const page = bench.server.follow();
    const snapshot = await page.find('snapshot');
    expect(snapshot.frames.filter(({ stored: isStored }) => isStored)).toHaveLength(6);
    expect(snapshot.stations).toMatchObject([{ name: 'N0CALL-7', comment: 'hi' }]);
    expect(snapshot.tallies[0]).toMatchObject({ frames: 1 });
    await bench.peer.connected();
    page.close();
  });

  it('is resumed by a page that was away for a moment', async () => {
    const first = bench.server.follow();
    await first.find('snapshot');
    const last = first.events.at(-1);
    first.close();
    bench.peer.send(STATUS_HEX);
    await stored(7);
    const second = bench.server.follow(`?epoch=${last?.epoch}&since=${last?.seq}`);
    await second.find('frame');
    expect(second.events.some(({ kind }) => kind === 'snapshot')).toBe(false);
    expect(second.events.map(({ seq }) => seq)).toEqual(
      second.events.map((_, i) => (last?.seq ?? 0) + 1 + i),
    );
    second.close();
  });
});

describe('two processes on one database', () => {
  it('leave a link to its owner and see each other’s frames', async () => {
    const other = await ServerUp.on(bench.databaseUrl);
    const page = other.follow();
    const snapshot = await page.find('snapshot');
    expect(snapshot.links).toMatchObject([{ heldElsewhere: true, phase: 'closed' }]);
    expect(await other.ask('POST', `/links/${bench.link.id}/open`)).toMatchObject({
      status: 409,
      body: { reason: 'held-elsewhere' },
    });
    bench.peer.send(STATUS_HEX);
    expect(await page.find('frame')).toMatchObject({ stored: true });
    page.close();
    await other.close();
  });
});

describe('a process whose session with the database was cut off', () => {
  const admin = async (sql: string): Promise<void> => {
    const client = new pg.Client({ connectionString: bench.databaseUrl });
    await client.connect();
    await client.query(sql);
    await client.end();
  };
  const linkAt = async (one: ServerUp): Promise<LinkView | undefined> =>
    (await one.ask<LinkView[]>('GET', '/links')).body[0];

  it('obeys the lock that another one took meanwhile, and takes the link up again when it is free', async () => {
    const other = await ServerUp.on(bench.databaseUrl);
    await bench.server.ask('POST', `/links/${bench.link.id}/open`);
    await until('its owner', async () => ((await linkAt(bench.server))?.openedAtMs ? true : undefined));
    await admin(`SELECT pg_terminate_backend(pid) FROM pg_locks WHERE locktype = 'advisory' AND granted
      AND database = (SELECT oid FROM pg_database WHERE datname = current_database())`);
    await until('the other owner', async () =>
      (await other.ask('POST', `/links/${bench.link.id}/open`)).status === 200 ? true : undefined,
    );
    await until('the first to let go', async () =>
      (await linkAt(bench.server))?.heldElsewhere ? true : undefined,
    );
    expect(await linkAt(bench.server)).toMatchObject({ phase: 'closed' });
    await until('one wire', () => (bench.peer.sockets.length === 1 ? true : undefined));
    const before = (await stored(0)).length;
    bench.peer.send(STATUS_HEX);
    await stored(before + 1);
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(await stored(0)).toHaveLength(before + 1);
    await other.close();
    await until('the first again', async () => ((await linkAt(bench.server))?.openedAtMs ? true : undefined));
    expect(await linkAt(bench.server)).toMatchObject({ heldElsewhere: false });
  });
});

describe('partitions', () => {
  it.each([
    [Date.UTC(2026, 11, 31, 23, 59), '2026-12', '2027-01'],
    [Date.UTC(2024, 1, 29), '2024-02', '2024-03'],
  ])('%i is in %s, then %s', (ms, month, next) =>
    expect([monthOf(ms), nextMonth(month)]).toEqual([month, next]),
  );
});
