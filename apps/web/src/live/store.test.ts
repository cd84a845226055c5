import type { FrameRecord } from '@mistpeak/contract/frame';
import type { LivePayload } from '@mistpeak/contract/live';
import { formatClock, formatDay } from '../pieces/age';
import { applyEvents, noteTrueTime, useLive } from './store';

const HEADER = '82a0b49aa096e09c60868298986f03f0';
const record = (id: string, info: string, more: Partial<FrameRecord> = {}): FrameRecord => ({
  id,
  atMs: 1000,
  linkId: 'l',
  direction: 'heard',
  port: 0,
  origin: 'kiss',
  rawHex: HEADER + Buffer.from(info).toString('hex'),
  stored: false,
  ...more,
});
let seq = 0;
const tell = (...payloads: LivePayload[]): void =>
  applyEvents(payloads.map((payload) => ({ ...payload, seq: ++seq, epoch: 'e' })));

describe('what the server tells, folded', () => {
  it('a frame enters the log and its station, and is stored later', () => {
    tell({ kind: 'frame', data: record('a', '!4903.50N/07201.75W-hut') });
    expect(useLive.getState().frames).toMatchObject([{ id: 'a', stored: false }]);
    expect(useLive.getState().stations.get('N0CALL-7')).toMatchObject({
      count: 1,
      comment: 'hut',
      frameId: 'a',
    });
    tell({ kind: 'stored', data: ['a'] });
    expect(useLive.getState().frames).toMatchObject([{ id: 'a', stored: true }]);
  });

  it('a clock that is put right takes the page’s with it, once', () => {
    const before = useLive.getState().clockOffsetMs;
    const right = { correctedByMs: 5000, stretches: [] };
    tell({ kind: 'trueTime', data: right });
    noteTrueTime(right);
    expect(useLive.getState().clockOffsetMs).toBe(before + 5000);
    tell({ kind: 'trueTime', data: { correctedByMs: 0, stretches: [] } });
    expect(useLive.getState().clockOffsetMs).toBe(before);
  });

  it('a time that a wrong clock wrote is shown as it truly was', () => {
    const atMs = Date.UTC(2026, 9, 12, 11);
    const stretches = [{ fromMs: atMs, toMs: atMs + 1, offByMs: 3 * 3_600_000 }];
    tell({ kind: 'trueTime', data: { correctedByMs: 0, stretches } });
    expect([formatClock(atMs, 'utc'), formatDay(atMs), formatDay(atMs + 1)]).toEqual([
      '14:00:00',
      '2026-10-12 14:00',
      '2026-10-12 11:00',
    ]);
    tell({ kind: 'trueTime', data: { correctedByMs: 0, stretches: [] } });
  });

  it('a scrap, a frame of ours and an unreadable one make no station', () => {
    const before = useLive.getState().stations.size;
    tell(
      { kind: 'frame', data: record('b', '!x', { trouble: 'bad escape' }) },
      { kind: 'frame', data: record('c', '!x', { direction: 'sent' }) },
      { kind: 'frame', data: record('d', '', { rawHex: 'beef', trouble: 'not AX.25' }) },
    );
    expect(useLive.getState().stations.size).toBe(before);
    expect(useLive.getState().frames).toHaveLength(4);
  });

  it('the log keeps its length', () => {
    tell(
      ...Array.from({ length: 500 }, (_, i) => ({ kind: 'frame' as const, data: record(`n${i}`, '>hi') })),
    );
    const { frames } = useLive.getState();
    expect([frames.length, frames.at(-1)?.id]).toEqual([400, 'n499']);
  });

  it('links and transmissions are replaced by their id, newest transmission first', () => {
    const link = { id: 'l', settings: {}, phase: 'closed', standIn: false, heldElsewhere: false } as never;
    const sent = (id: string, queuedAtMs: number) => ({
      kind: 'transmission' as const,
      data: { id, queuedAtMs, echoes: [] } as never,
    });
    tell(
      { kind: 'link', data: link },
      { kind: 'link', data: { ...(link as object), phase: 'hearing' } as never },
      sent('1', 10),
      sent('2', 20),
      sent('1', 10),
    );
    const { links, transmissions } = useLive.getState();
    expect(links).toMatchObject([{ phase: 'hearing' }]);
    expect(transmissions.map(({ id }) => id)).toEqual(['2', '1']);
    tell({ kind: 'link-removed', data: { id: 'l' } });
    expect(useLive.getState().links).toEqual([]);
  });
});

describe('kit, chains, ticks and trials', () => {
  it('are the server’s lists; of a step the last tick stands', () => {
    const tick = (stepId: string, isDone: boolean) => ({
      kind: 'tick' as const,
      data: { chainId: 'c', stepId, isDone, atMs: 1, measured: '', note: '' },
    });
    tell(
      { kind: 'kit', data: { items: [{ id: 'radio' }], versions: { radio: 3 } } as never },
      { kind: 'chains', data: [{ id: 'c' }] as never },
      { kind: 'trials', data: [{ id: 't' }] as never },
      tick('squelch', true),
      tick('vox', true),
      tick('squelch', false),
    );
    const { kit, kitVersions, chains, trials, ticks } = useLive.getState();
    expect(kitVersions).toEqual({ radio: 3 });
    expect([kit, chains, trials]).toEqual([[{ id: 'radio' }], [{ id: 'c' }], [{ id: 't' }]]);
    expect([...ticks.values()].map(({ stepId, isDone }) => [stepId, isDone])).toEqual([
      ['squelch', false],
      ['vox', true],
    ]);
  });
});
