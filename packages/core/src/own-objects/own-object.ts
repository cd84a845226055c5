import { encodeItem, encodeObjectReport } from '../aprs/object.js';
import { timestampAt } from '../aprs/timestamp.js';
import type { AprsReport, AprsSymbol } from '../aprs/report.js';
import type { Position } from '../geo/position.js';
import {
  start,
  stop,
  type Moment,
  type Stepped,
  type TimerEffect,
  type TimerEvent,
} from '../machine/machine.js';

/** What is told of it. everyMs: how often, once it is known. */
export interface ObjectFacts {
  readonly kind: 'object' | 'item';
  readonly name: string;
  readonly position: Position;
  readonly symbol: AprsSymbol;
  readonly comment: string;
  readonly everyMs: number;
}

/**
 * One object of ours:
 *
 *   quiet --put, moved, changed--> told: at once, then after 1, 2, 4 … minutes up to its own interval
 *   told --killed--> leaving: told three times that it is gone --> gone
 *   told --the same name heard from another station--> taken: that one tells it now (APRS 1.0.1, "Taking over an object":
 *          any station may, and the one before falls silent)
 *   any --put again--> told
 *
 * What cannot leave, since the lock is shut, is held: it is tried again, and leaves at once when the lock opens. The growing wait
 * begins with what has left.
 */
export type OwnObject =
  | { readonly phase: 'quiet' }
  | { readonly phase: 'told'; readonly times: number; readonly isHeld?: true }
  | { readonly phase: 'leaving'; readonly times: number; readonly isHeld?: true }
  | { readonly phase: 'taken'; readonly by: string }
  | { readonly phase: 'gone' };

export type OwnObjectEvent =
  | { readonly kind: 'put' }
  | { readonly kind: 'kill' }
  /** A report of the same name by another station. */
  | { readonly kind: 'heard'; readonly from: string }
  | { readonly kind: 'sent' }
  | { readonly kind: 'failed' }
  /** The lock may have been opened: what is held leaves, and nothing else. */
  | { readonly kind: 'open' }
  | TimerEvent;

export type OwnObjectEffect = TimerEffect<'due'> | { readonly kind: 'send'; readonly live: boolean };

export interface OwnObjectContext extends Moment {
  readonly everyMs: number;
}

type Outcome = Stepped<OwnObject, OwnObjectEffect>;

const FIRST_WAIT_MS = 60_000;
const TRY_AGAIN_MS = 30_000;
/** So often it is told that it is gone: one report may be lost (common practice, no source). */
export const TOLD_GONE = 3;

export function ownObjectStep(
  object: OwnObject,
  event: OwnObjectEvent,
  { everyMs }: OwnObjectContext,
): Outcome {
  switch (event.kind) {
    case 'put':
      return [{ phase: 'told', times: 0 }, [stop('due'), { kind: 'send', live: true }]];
    case 'kill':
      // Nobody else heard of it, or it is another’s: there is nothing to take back.
      if (object.phase === 'quiet' || object.phase === 'taken' || object.phase === 'gone')
        return [{ phase: 'gone' }, [stop('due')]];
      if (object.phase === 'leaving') return [object, []];
      return [{ phase: 'leaving', times: 0 }, [stop('due'), { kind: 'send', live: false }]];
    case 'heard':
      return object.phase === 'told' || object.phase === 'leaving'
        ? [{ phase: 'taken', by: event.from }, [stop('due')]]
        : [object, []];
    case 'sent':
      return sent(object, everyMs);
    case 'failed':
      return isTelling(object) ? [{ ...object, isHeld: true }, [start('due', TRY_AGAIN_MS)]] : [object, []];
    case 'open':
      return isTelling(object) && object.isHeld ? again(object) : [object, []];
    case 'timer':
      return isTelling(object) ? again(object) : [object, []];
  }
}

type Telling = Extract<OwnObject, { readonly times: number }>;

const isTelling = (object: OwnObject): object is Telling =>
  object.phase === 'told' || object.phase === 'leaving';

const again = ({ phase, times }: Telling): Outcome => [
  { phase, times },
  [stop('due'), { kind: 'send', live: phase === 'told' }],
];

function sent(object: OwnObject, everyMs: number): Outcome {
  if (object.phase === 'told') {
    const wait = Math.min(everyMs, FIRST_WAIT_MS * 2 ** Math.min(20, object.times));
    return [{ phase: 'told', times: object.times + 1 }, [start('due', wait)]];
  }
  if (object.phase !== 'leaving') return [object, []];
  if (object.times + 1 >= TOLD_GONE) return [{ phase: 'gone' }, [stop('due')]];
  return [{ phase: 'leaving', times: object.times + 1 }, [start('due', FIRST_WAIT_MS)]];
}

/** Its report, one character per octet. Throws RangeError where the name has no form of its kind. */
export function objectInfo(
  { kind, name, position, symbol, comment }: ObjectFacts,
  live: boolean,
  atMs: number,
): string {
  const report: AprsReport = { type: kind, object: { name, live }, ...position, symbol, comment };
  return kind === 'item'
    ? encodeItem(report)
    : encodeObjectReport({ ...report, timestamp: timestampAt('dhm-zulu', atMs) });
}
