import type { FrameRecord } from '@mistpeak/contract/frame';
import { command, problemOf } from '../api';
import { passed, type Replay } from './replay';
import { useReplaying } from './replaying';

const frame = (atMs: number): FrameRecord => ({ id: String(atMs), atMs }) as FrameRecord;
const REPLAY: Replay = {
  fromMs: 0,
  untilMs: 10_000,
  atMs: 0,
  speed: 10,
  isPaused: false,
  coming: [100, 1000, 2000, 9999].map(frame),
};

describe('a past hour', () => {
  it('passes by its speed, each frame once and in order', () => {
    const first = passed(REPLAY, 100);
    expect(first.came.map(({ atMs }) => atMs)).toEqual([100, 1000]);
    expect(first.replay.atMs).toBe(1000);
    const second = passed(first.replay, 100);
    expect(second.came.map(({ atMs }) => atMs)).toEqual([2000]);
    expect(passed(second.replay, 10).came).toEqual([]);
  });

  it('stands at its end, with all that had come', () => {
    const { replay, came } = passed(REPLAY, 1_000_000);
    expect(came).toHaveLength(4);
    expect(replay).toMatchObject({ atMs: 10_000, isPaused: true, coming: [] });
  });

  it('stands while it is paused', () => {
    expect(passed({ ...REPLAY, isPaused: true }, 1000)).toEqual({
      replay: { ...REPLAY, isPaused: true },
      came: [],
    });
  });

  it('lets no command out, and asks still', async () => {
    const asked: string[] = [];
    globalThis.fetch = ((url: string) => {
      asked.push(url);
      return Promise.reject(new Error('no server'));
    }) as typeof fetch;
    useReplaying.setState({ isOn: true });
    for (const method of ['POST', 'PUT', 'DELETE'] as const)
      await command(method, '/beacon/transmissions', {}).catch((error: unknown) =>
        expect(problemOf(error).reason).toBe('replaying'),
      );
    expect(asked).toEqual([]);
    await command('GET', '/frames').catch(() => undefined);
    expect(asked).toHaveLength(1);
    useReplaying.setState({ isOn: false });
  });
});
