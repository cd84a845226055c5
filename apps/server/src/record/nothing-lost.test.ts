import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { HealthView } from '@mistpeak/contract/health';
import type { LinkView, TallyView } from '@mistpeak/contract/link';
import { DatabaseProxy } from '../testing/database-proxy.js';
import { KissPeer } from '../testing/kiss-peer.js';
import { linkTo, makeDatabase, ServerUp, until } from '../testing/server-up.js';

/** `N0CALL-7>APZMPK:>` and a text, in a KISS data frame. */
const statusFrame = (text: string): string =>
  `c00082a0b49aa096e09c60868298986f03f03e${Buffer.from(text).toString('hex')}c0`;
const framesOf = async (server: ServerUp, limit = 1000): Promise<FrameRecord[]> =>
  (await server.ask<FrameRecord[]>('GET', `/frames?limit=${limit}`)).body;

describe('a stop while the database is away', () => {
  it('loses nothing that waited: it is in the record after the next start, and said', async () => {
    const dataFolder = mkdtempSync(join(tmpdir(), 'mistpeak-data-'));
    const proxy = await DatabaseProxy.to(await makeDatabase());
    const first = await ServerUp.on(proxy.url, { dataFolder });
    const peer = await KissPeer.listen();
    const { id } = (await first.ask<LinkView>('POST', '/links', linkTo(peer.port))).body;
    await first.ask('POST', `/links/${id}/open`);
    await peer.got('c00500c0');
    await proxy.cut();
    await until('the outage', async () =>
      (await first.ask<HealthView>('GET', '/health')).body.database === 'away' ? true : undefined,
    );
    const page = first.follow();
    await page.find('snapshot');
    for (let i = 0; i < 100; i++) peer.send(statusFrame(`while away ${i}`));
    await until(
      'all heard',
      () => page.events.filter(({ kind }) => kind === 'frame').length === 100 || undefined,
    );
    // Evidence of it waits too.
    await until('both told', async () =>
      (await first.ask<HealthView>('GET', '/health')).body.waiting > 100 ? true : undefined,
    );
    page.close();
    await first.close();
    expect(readdirSync(dataFolder).sort()).toEqual(['waiting-frames.jsonl', 'waiting-writes.jsonl']);

    await proxy.mend();
    const second = await ServerUp.on(proxy.url, { dataFolder });
    const texts = (await framesOf(second)).map(({ rawHex }) =>
      Buffer.from(rawHex, 'hex').toString('latin1').slice(17),
    );
    expect(texts).toEqual(Array.from({ length: 100 }, (_, i) => `while away ${i}`));
    expect((await second.ask<HealthView>('GET', '/health')).body).toMatchObject({
      database: 'here',
      restored: 100,
    });
    const after = second.follow();
    const { evidence, stations } = await after.find('snapshot');
    expect(evidence.map(({ rung }) => rung)).toContain('packet decoded');
    expect(stations).toMatchObject([{ name: 'N0CALL-7', comment: 'while away 99' }]);
    after.close();
    expect(readdirSync(dataFolder)).toEqual([]);
    await second.close();
    await proxy.cut();
    await peer.close();
    rmSync(dataFolder, { recursive: true });
  });
});

describe('a link that floods', () => {
  it('garbage takes no frame of another link; it is counted whole, stored as a few sums, and the tally says which link', async () => {
    const server = await ServerUp.on(await makeDatabase());
    const [flood, calm] = [await KissPeer.listen(), await KissPeer.listen()];
    const ids: string[] = [];
    for (const peer of [flood, calm]) {
      const { id } = (await server.ask<LinkView>('POST', '/links', linkTo(peer.port))).body;
      ids.push(id);
      await server.ask('POST', `/links/${id}/open`);
      await peer.got('c00500c0');
    }
    const page = server.follow();
    await page.find('snapshot');
    // Octets that hold no FEND, in pieces of 256; and broken escapes.
    const noise = 'a5'.repeat(65_536);
    let isOver = false;
    const flooding = (async () => {
      for (let i = 0; i < 160 && !isOver; i++) {
        flood.send(i % 4 === 0 ? 'c000db41c0'.repeat(2000) : noise);
        await new Promise((resolve) => setTimeout(resolve, 12));
      }
    })();
    for (let i = 0; i < 60; i++) {
      calm.send(statusFrame(`calm ${i}`));
      await new Promise((resolve) => setTimeout(resolve, 30));
    }
    const calmOnes = () => page.events.filter(({ kind, data }) => kind === 'frame' && data.linkId === ids[1]);
    await until('every calm frame', () => calmOnes().length === 60 || undefined);
    isOver = true;
    await flooding;
    const tallyOf = (id: string | undefined): TallyView | undefined =>
      page.events
        .filter(({ kind }) => kind === 'tally')
        .map(({ data }) => data as TallyView)
        .findLast(({ linkId }) => linkId === id);
    await until('the sums', () =>
      (tallyOf(ids[0])?.troubles.reduce((sum, { count }) => sum + count, 0) ?? 0) > 20_000 ? true : undefined,
    );
    expect(tallyOf(ids[1])?.troubles ?? []).toEqual([]);
    const stored = await until('every calm frame in the record', async () => {
      const frames = await framesOf(server);
      return frames.filter(({ linkId }) => linkId === ids[1]).length === 60 ? frames : undefined;
    });
    const ofFlood = stored.filter(({ linkId }) => linkId === ids[0]);
    expect(ofFlood.length).toBeLessThan(200);
    expect(ofFlood.some(({ times = 1 }) => times > 1000)).toBe(true);
    expect((await server.ask<HealthView>('GET', '/health')).body).toMatchObject({
      dropped: 0,
      droppedOf: [],
    });
    page.close();
    await server.close();
    await flood.close();
    await calm.close();
  });
});

describe('a listing by time', () => {
  it('skips no frame at a page’s edge, however many have the same time', async () => {
    const server = await ServerUp.on(await makeDatabase());
    const peer = await KissPeer.listen();
    const { id } = (await server.ask<LinkView>('POST', '/links', linkTo(peer.port))).body;
    await server.ask('POST', `/links/${id}/open`);
    await peer.got('c00500c0');
    // In one write: most of them get the same millisecond.
    peer.send(Array.from({ length: 50 }, (_, i) => statusFrame(`same ${i}`)).join(''));
    const all = await until('fifty', async () => {
      const frames = await framesOf(server);
      return frames.length === 50 ? frames : undefined;
    });
    expect(new Set(all.map(({ atMs }) => atMs)).size).toBeLessThan(50);
    const paged: FrameRecord[] = [];
    for (;;) {
      const [first] = paged;
      const before = first ? `&beforeMs=${first.atMs}&beforeId=${first.id}` : '';
      const { body } = await server.ask<FrameRecord[]>('GET', `/frames?limit=7${before}`);
      if (body.length === 0) break;
      paged.unshift(...body);
    }
    expect(paged.map((frame) => frame.id)).toEqual(all.map((frame) => frame.id));
    await server.close();
    await peer.close();
  });
});
