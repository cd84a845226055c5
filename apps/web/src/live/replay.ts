import { create } from 'zustand';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { LiveEvent } from '@mistpeak/contract/live';
import { command } from '../api';
import { useReplaying } from './replaying';
import { applyEvents, useLive } from './store';

export const SPEEDS = [1, 2, 5, 10, 30, 60, 120] as const;
const HOUR_MS = 3_600_000;
/** What was heard before counts for who is there as it begins. */
const BEFORE_MS = 2 * HOUR_MS;
const FRAMES_AT_ONCE = 1000;
/** A busier time than this is cut: no page holds more. */
const MOST_FRAMES = 30_000;
const TICK_MS = 200;

/** A time that passes again: where it is, how fast, and what is still to come. */
export interface Replay {
  readonly fromMs: number;
  readonly untilMs: number;
  readonly atMs: number;
  readonly speed: number;
  readonly isPaused: boolean;
  /** Oldest first. */
  readonly coming: readonly FrameRecord[];
}

export const useReplay = create<{ readonly replay: Replay | undefined }>(() => ({ replay: undefined }));

/** So much real time later: what has come meanwhile, and the replay after it. It stands at its end. */
export function passed(replay: Replay, realMs: number): { replay: Replay; came: readonly FrameRecord[] } {
  if (replay.isPaused) return { replay, came: [] };
  const atMs = Math.min(replay.untilMs, replay.atMs + realMs * replay.speed);
  const count = replay.coming.findIndex((frame) => frame.atMs > atMs);
  const many = count < 0 ? replay.coming.length : count;
  return {
    replay: { ...replay, atMs, coming: replay.coming.slice(many), isPaused: atMs >= replay.untilMs },
    came: replay.coming.slice(0, many),
  };
}

const eventOf = (data: FrameRecord): LiveEvent => ({ kind: 'frame', data, seq: 0, epoch: 'replay' });

/** All that was heard in that hour, and who was there before; from then on the page lives in that time. */
export async function beginReplay(fromMs: number, speed: number): Promise<void> {
  const untilMs = fromMs + HOUR_MS;
  const frames = await framesBetween(fromMs - BEFORE_MS, untilMs);
  useReplaying.setState({ isOn: true });
  useLive.setState({ frames: [], stations: new Map(), channels: new Map() });
  applyEvents(frames.filter(({ atMs }) => atMs <= fromMs).map(eventOf));
  const coming = frames.filter(({ atMs }) => atMs > fromMs);
  useReplay.setState({ replay: { fromMs, untilMs, atMs: fromMs, speed, isPaused: false, coming } });
  setClock(fromMs);
  let lastMs = performance.now();
  setInterval(() => {
    const realMs = performance.now() - lastMs;
    lastMs = performance.now();
    const { replay } = useReplay.getState();
    if (!replay) return;
    const next = passed(replay, realMs);
    useReplay.setState({ replay: next.replay });
    if (next.came.length > 0) applyEvents(next.came.map(eventOf));
    setClock(next.replay.atMs);
  }, TICK_MS);
}

/** Every screen reckons ages by this. */
const setClock = (atMs: number): void => useLive.setState({ clockOffsetMs: atMs - Date.now() });

export function changeReplay(change: Partial<Pick<Replay, 'speed' | 'isPaused'>>): void {
  useReplay.setState(({ replay }) => ({ replay: replay && { ...replay, ...change } }));
}

/** The page begins anew, in the present. */
export function endReplay(): void {
  location.reload();
}

async function framesBetween(sinceMs: number, untilMs: number): Promise<FrameRecord[]> {
  const frames: FrameRecord[] = [];
  for (let before = `beforeMs=${untilMs}`; frames.length < MOST_FRAMES;) {
    const page = await command<FrameRecord[]>('GET', `/frames?limit=${FRAMES_AT_ONCE}&${before}`);
    frames.unshift(...page);
    const [first] = page;
    if (!first || page.length < FRAMES_AT_ONCE || first.atMs < sinceMs) break;
    before = `beforeMs=${first.atMs}&beforeId=${first.id}`;
  }
  return frames.filter(({ atMs }) => atMs >= sinceMs);
}
