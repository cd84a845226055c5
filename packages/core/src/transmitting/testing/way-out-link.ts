import { drive } from '../../machine/drive.js';
import { Timetable } from '../../network/timetable.js';
import {
  IDLE,
  step,
  type Offered,
  type WayOut,
  type WayOutContext,
  type WayOutEffect,
  type WayOutEvent,
} from '../way-out.js';

export const KEYING_MS = 330;

/** A way out on a timetable; what happened, as `1000 hand a b` and `1000 drop c expired`. */
export function link() {
  const clock = new Timetable();
  const told: string[] = [];
  const overs: { atMs: number; ids: readonly string[]; leftAfterMs: number }[] = [];
  const running = drive<WayOut, WayOutEvent, WayOutEffect, WayOutContext>(step, IDLE, {
    clock,
    context: ({ atMs }) => ({ atMs, keyingMs: KEYING_MS }),
    perform: (effect) => {
      const atMs = clock.nowMs();
      if (effect.kind === 'hand') overs.push({ atMs, ...effect });
      const words =
        effect.kind === 'hand'
          ? effect.ids.join(' ')
          : effect.kind === 'drop'
            ? `${effect.id} ${effect.why}`
            : '';
      told.push(`${atMs} ${effect.kind} ${words}`.trim());
    },
  });
  return {
    clock,
    told,
    overs,
    state: () => running.state(),
    tell: (event: WayOutEvent) => running.dispatch(event),
    offer: (frame: Partial<Offered> & { id: string }) =>
      running.dispatch({
        kind: 'offer',
        frame: { owner: frame.id, sendClass: 'message', airTimeMs: 500, identifies: true, ...frame },
      }),
  };
}
export type Running = ReturnType<typeof link>;
