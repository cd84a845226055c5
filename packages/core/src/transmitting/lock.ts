import {
  start,
  stop,
  type Moment,
  type Stepped,
  type TimerEffect,
  type TimerEvent,
} from '../machine/machine.js';

/**
 * The transmit lock of one link.
 *
 *   shut --arm--> armed --touch--> armed, an hour longer
 *   armed --close, or an idle hour--> shut
 *
 * Every closing has a number, also one that finds the lock shut: what was permitted under an earlier number is not
 * permitted any more, even if the lock was armed again meanwhile. Times in ms of a clock that only goes forward and
 * counts sleep.
 */
export interface Lock {
  readonly closings: number;
  readonly armed?: { readonly call: string; readonly expiresAtMs: number };
}

export type LockEvent =
  | { readonly kind: 'arm'; readonly call: string }
  /** By the operator, by another server, or because the link was taken up or lost. */
  | { readonly kind: 'close' }
  /** A frame left under that permit. */
  | { readonly kind: 'touch'; readonly permit: Permit }
  | TimerEvent;

export type LockEffect = TimerEffect<'idle'>;

/** That a frame may go out: as long as nothing has closed the lock since. */
export interface Permit {
  readonly closings: number;
}

/** An idle lock falls shut after an hour. */
export const IDLE_LIMIT_MS = 60 * 60_000;

export const SHUT: Lock = { closings: 0 };

export function step(
  lock: Lock,
  event: LockEvent,
  { atMs }: Pick<Moment, 'atMs'>,
): Stepped<Lock, LockEffect> {
  switch (event.kind) {
    case 'arm':
      return arm(lock, event.call, atMs);
    case 'close':
    case 'timer':
      return shut(lock);
    case 'touch':
      return touch(lock, event.permit, atMs);
  }
}

/** Another call takes the place of the first, or its hour was over: what was permitted then is not permitted any more. */
function arm(lock: Lock, call: string, atMs: number): Stepped<Lock, LockEffect> {
  const goesOn = !lock.armed || armedCall(lock, atMs) === call;
  return open(goesOn ? lock.closings : lock.closings + 1, call, atMs);
}

function open(closings: number, call: string, atMs: number): Stepped<Lock, LockEffect> {
  return [{ closings, armed: { call, expiresAtMs: atMs + IDLE_LIMIT_MS } }, [start('idle', IDLE_LIMIT_MS)]];
}

function shut({ closings }: Lock): Stepped<Lock, LockEffect> {
  return [{ closings: closings + 1 }, [stop('idle')]];
}

/** A frame that left before a closing does not open the lock again, nor does one that left when the time was over. */
function touch(lock: Lock, permit: Permit, atMs: number): Stepped<Lock, LockEffect> {
  const call = armedCall(lock, atMs);
  if (call === undefined) return lock.armed ? shut(lock) : [lock, []];
  return permit.closings === lock.closings ? open(lock.closings, call, atMs) : [lock, []];
}

/** The call in force; undefined while it is shut, and once its time is over, whether or not the timer has rung. */
export function armedCall({ armed }: Lock, nowMs: number): string | undefined {
  return armed && armed.expiresAtMs > nowMs ? armed.call : undefined;
}

export function stillPermits(lock: Lock, permit: Permit, nowMs: number): boolean {
  return armedCall(lock, nowMs) !== undefined && permit.closings === lock.closings;
}
