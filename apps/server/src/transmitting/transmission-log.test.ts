import type { Repository } from 'typeorm';
import { Timetable } from '@mistpeak/core/network/timetable';
import { ECHO_WINDOW_MS } from '@mistpeak/core/transmitting/echo';
import type { DeferredWrites } from '../database/deferred-writes.js';
import type { LiveService } from '../live/live.service.js';
import { TransmissionLog } from './transmission-log.js';
import type { TransmissionEntity } from './transmitting.entity.js';

const row = (id: string): TransmissionEntity => ({
  id,
  linkId: 'link',
  source: '1X9TST',
  purpose: 'session',
  raw: Buffer.from('aa', 'hex'),
  airTimeMs: 700,
  queuedAt: new Date(0),
  handedAt: null,
  state: 'queued',
  echoes: [],
  gates: [],
});

function rig() {
  const clock = new Timetable(5000);
  const written: { id: string; state: string }[][] = [];
  const told: string[] = [];
  const shown: { view: () => { id: string }[] } = { view: () => [] };
  const deferred = {
    write: (_: string, [json]: string[]) =>
      Promise.resolve(void written.push(JSON.parse(json ?? '[]') as { id: string; state: string }[])),
  } as unknown as DeferredWrites;
  const live = {
    contribute: (_: string, view: () => unknown) => (shown.view = view as typeof shown.view),
    publish: ({ data }: { data: { id: string; state: string } }) => told.push(`${data.id} ${data.state}`),
  } as unknown as LiveService;
  const rows = {
    update: () => Promise.resolve(),
    find: () => Promise.resolve([]),
    findOneBy: ({ id }: { id: string }) => Promise.resolve(id === 'old' ? row('old') : null),
  };
  const log = new TransmissionLog(rows as unknown as Repository<TransmissionEntity>, clock, live, deferred);
  return { clock, log, written, told, shown };
}

describe('the log of what was sent', () => {
  it('shows the newest first, whatever was told of last', async () => {
    const { log, shown } = rig();
    await log.onApplicationBootstrap();
    const [older, newer] = [row('older'), { ...row('newer'), queuedAt: new Date(1000) }];
    for (const one of [newer, older, newer, older]) log.note(one);
    expect(shown.view().map(({ id }) => id)).toEqual(['newer', 'older']);
  });

  it('is shown at once, and written as one statement for all that happened within 100 ms', () => {
    const { clock, log, written, told } = rig();
    const [a, b] = [row('a'), row('b')];
    log.note(a);
    log.note(b);
    a.state = 'handed';
    log.note(a);
    expect(told).toEqual(['a queued', 'b queued', 'a handed']);
    clock.advance(99);
    expect(written).toEqual([]);
    clock.advance(1);
    expect(written).toMatchObject([
      [
        { id: 'a', state: 'handed', raw: 'aa' },
        { id: 'b', state: 'queued', handed_at: null },
      ],
    ]);
    clock.advance(1000);
    expect(written).toHaveLength(1);
    log.note(b);
    clock.advance(100);
    expect(written[1]).toHaveLength(1);
  });

  it('finds a frame as it is now, written or not', async () => {
    const { log, clock } = rig();
    const states = async (...ids: string[]) =>
      Promise.all(ids.map(async (id) => (await log.find(id))?.state));
    log.note({ ...row('a'), state: 'handed' });
    // As many newer ones push it off the list that is shown, yet it is not written.
    for (let i = 0; i < 60; i++) log.note({ ...row(`n${i}`), queuedAt: new Date(1000 + i) });
    expect(await states('a', 'n59', 'old', 'unknown')).toEqual(['handed', 'queued', 'queued', undefined]);
    clock.advance(100);
    expect(await states('a', 'n59')).toEqual([undefined, 'queued']);
  });

  it('writes what is left when the process ends', async () => {
    const { log, written, clock } = rig();
    log.note(row('a'));
    await log.onModuleDestroy();
    expect(written).toHaveLength(1);
    expect(clock.leftovers()).toBe(0);
  });

  it('remembers what may be echoed by time, not by count', () => {
    const { log, clock } = rig();
    for (let i = 0; i < 500; i++) log.await(row(`n${i}`));
    expect(log.awaiting('n0')?.id).toBe('n0');
    clock.advance(ECHO_WINDOW_MS - 1);
    log.await(row('later'));
    expect(log.awaiting('n0')?.id).toBe('n0');
    clock.advance(1);
    log.await(row('last'));
    expect([log.awaiting('n0'), log.awaiting('n499'), log.awaiting('later')?.id]).toEqual([
      undefined,
      undefined,
      'later',
    ]);
  });
});
