import { trueMs } from '@mistpeak/core/true-time/stretches';
import { useLive } from '../live/store';

/** `4 s`, `12 min`, `3 h`, `2 d`. */
export function formatAge(ms: number): string {
  const seconds = Math.max(0, Math.round(ms / 1000));
  if (seconds < 60) return `${seconds} s`;
  if (seconds < 3600) return `${Math.floor(seconds / 60)} min`;
  if (seconds < 86_400) return `${Math.floor(seconds / 3600)} h`;
  return `${Math.floor(seconds / 86_400)} d`;
}

/** A time of the record as it truly was, where a clock that was wrong has written it. */
const truly = (ms: number): Date => new Date(trueMs(ms, useLive.getState().trueTime.stretches));

/** `14:05:33` in UTC or the browser's zone. */
export function formatClock(ms: number, zone: 'utc' | 'local'): string {
  const date = truly(ms);
  return zone === 'utc' ? date.toISOString().slice(11, 19) : date.toTimeString().slice(0, 8);
}

/** `0.74 s`, `12.3 s`. */
export function formatSeconds(ms: number): string {
  return `${(ms / 1000).toFixed(ms < 10_000 ? 2 : 1)} s`;
}

/** `2026-04-18 14:05` in UTC. */
export const formatDay = (ms: number): string => truly(ms).toISOString().slice(0, 16).replace('T', ' ');
