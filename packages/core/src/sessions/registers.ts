import { NO_SEGMENTS } from '../ax25/segmentation.js';
import type {
  AwaitingConnection,
  AwaitingRelease,
  Disconnected,
  Phase,
  SessionState,
  SessionTimer,
  Standing,
} from './session.js';

type Mutable<T> = { -readonly [K in keyof T]: T[K] };
type Own<State> = Omit<State, 'phase' | 'running'>;
type Fields = Own<Disconnected> & Own<AwaitingConnection> & Own<AwaitingRelease> & Own<Standing>;

/** Everything that a step may read and write while it goes from one phase to another. */
export interface Registers extends Mutable<Fields> {
  phase: Phase;
  running: ReadonlySet<SessionTimer>;
}

/** What a phase does not hold begins like this in the next. */
const AT_REST = {
  running: new Set<SessionTimer>(),
  vs: 0,
  va: 0,
  vr: 0,
  rc: 0,
  window: [],
  pending: [],
  early: new Map<number, never>(),
  asked: new Set<number>(),
  peerBusy: false,
  rejecting: false,
  unacknowledged: 0,
  settled: false,
  calling: false,
  room: Infinity,
  fellBack: false,
  silent: true,
  dueAnswers: 0,
  oldAnswers: 0,
  askedAtMs: 0,
  timedAtMs: undefined,
  limits: undefined,
  xidAsked: 0,
  gathered: NO_SEGMENTS,
} satisfies Partial<Registers>;

export const unfolded = (state: SessionState): Registers => ({ ...AT_REST, ...state });

/** The state of the phase that a step ended in. */
export function folded(registers: Registers): SessionState {
  const { phase, modulo, selective, ownBusy, roundTripMs, t1Ms } = registers;
  const { resent, timeouts, stale, rejected, rejects } = registers;
  const counts = { resent, timeouts, stale, rejected, rejects };
  const lasting = { modulo, selective, ownBusy, roundTripMs, t1Ms, ...counts };
  const { rc, window, pending, dueAnswers, oldAnswers } = registers;
  switch (phase) {
    case 'disconnected':
      return { phase, ...lasting };
    case 'awaiting connection': {
      const { calling, fellBack, silent, askedAtMs } = registers;
      const call = { calling, fellBack, silent, askedAtMs };
      return { phase, ...lasting, rc, dueAnswers, oldAnswers, ...call, pending, running: onlyT1(registers) };
    }
    case 'awaiting release':
      return { phase, ...lasting, rc, window, pending, running: onlyT1(registers) };
    case 'connected':
    case 'timer recovery': {
      const { calling: _, fellBack: __, silent: ___, askedAtMs: ____, ...standing } = registers;
      return { ...standing, phase };
    }
  }
}

const onlyT1 = ({ running }: Registers): ReadonlySet<'T1'> => new Set(running.has('T1') ? ['T1'] : []);
