import { decodeAddressField, decodeFrame, isCommand, type Ax25Frame } from '../ax25/frame.js';
import { isMalformed } from '../bits/malformed.js';
import { heardWhileConnected } from './connected.js';
import { Draft } from './draft.js';
import {
  askAgain,
  connect,
  heardWhileAwaitingConnection,
  heardWhileAwaitingRelease,
  heardWhileDisconnected,
  reestablish,
  release,
  releaseAgain,
} from './establishing.js';
import type { Stepped } from '../machine/machine.js';
import { frameFault } from './frame-faults.js';
import type {
  SessionContext,
  SessionEffect,
  SessionEvent,
  SessionOptions,
  SessionState,
  SessionTrouble,
} from './session.js';
import { askByXidAgain } from './negotiating.js';
import { acknowledgeNow } from './receiving.js';
import { ask, askAfterTimeout, enqueue, pump } from './sending.js';

/**
 * One event at one end of a connection: the new state and what is to be done, in order.
 */
export function step(
  state: SessionState,
  event: SessionEvent,
  { atMs, options, unsent = false }: SessionContext,
): Stepped<SessionState, SessionEffect> {
  const draft = new Draft(state, options, atMs);
  if (unsent && isT1(event)) draft.startAgain('T1');
  else take(draft, event);
  pump(draft);
  return draft.end();
}

const isT1 = (event: SessionEvent): boolean => event.kind === 'timer' && event.timer === 'T1';

function take(draft: Draft, event: SessionEvent): void {
  const { phase } = draft.state;
  switch (event.kind) {
    case 'connect':
      return phase === 'disconnected' ? connect(draft) : undefined;
    case 'disconnect':
      return hangUp(draft);
    case 'let go':
      return phase === 'disconnected' ? release(draft) : undefined;
    case 'send':
      // Without a link there is nowhere to send it.
      return phase === 'disconnected' || phase === 'awaiting release'
        ? undefined
        : enqueue(draft, event.octets, event.pid);
    case 'busy':
      return setBusy(draft, event.on);
    case 'heard':
      return heard(draft, event.octets);
    case 'timer':
      return rang(draft, event.timer);
  }
}

function hangUp(draft: Draft): void {
  const { phase } = draft.state;
  switch (phase) {
    case 'disconnected':
      return;
    case 'awaiting release':
      // Asked twice: do not wait any longer.
      return draft.disconnect('asked for');
    case 'awaiting connection':
    case 'connected':
    case 'timer recovery':
      return release(draft);
  }
}

/** "Set own receiver busy": the other end is told at once, both ways. */
function setBusy(draft: Draft, on: boolean): void {
  const { state } = draft;
  if (state.ownBusy === on) return;
  state.ownBusy = on;
  if (state.phase === 'connected' || state.phase === 'timer recovery') acknowledgeNow(draft);
}

function rang(draft: Draft, timer: string): void {
  const { phase } = draft.state;
  if (!draft.isRunning(timer)) return;
  draft.expired(timer);
  if (timer === 'T2') return acknowledgeNow(draft);
  if (timer === 'XID') return askByXidAgain(draft);
  switch (phase) {
    case 'disconnected':
      return;
    case 'awaiting connection':
      return askAgain(draft);
    case 'awaiting release':
      return releaseAgain(draft);
    case 'connected':
      return timer === 'T3' ? ask(draft) : askAfterTimeout(draft);
    case 'timer recovery':
      return askAfterTimeout(draft);
  }
}

function heard(draft: Draft, octets: Uint8Array): void {
  const { state, options } = draft;
  if (!isForUs(octets, options)) return;
  const frame = decodeFrame(octets, state.modulo);
  const fault = frameFault(octets, frame, state.modulo);
  if (fault) return heardFaulty(draft, fault);
  if (isMalformed(frame)) return;
  const command = isCommandFor(frame);
  if (frame.control.kind === 'TEST' && command)
    return draft.response({ kind: 'TEST', pf: frame.control.pf }, frame.info);
  switch (state.phase) {
    case 'disconnected':
      return heardWhileDisconnected(draft, frame, command);
    case 'awaiting connection':
      return heardWhileAwaitingConnection(draft, frame, command);
    case 'awaiting release':
      return heardWhileAwaitingRelease(draft, frame, command);
    case 'connected':
    case 'timer recovery':
      return heardWhileConnected(draft, frame, command);
  }
}

/** Errors L to O: a link that stands is set up anew ("Data-link SDL diagrams", connected and timer recovery). */
function heardFaulty(draft: Draft, fault: SessionTrouble): void {
  draft.trouble(fault);
  const { phase } = draft.state;
  if (phase === 'connected' || phase === 'timer recovery') reestablish(draft);
}

/** To us, from the other end, and past every digipeater on its way. */
function isForUs(octets: Uint8Array, { own, peer }: SessionOptions): boolean {
  const field = decodeAddressField(octets);
  if (isMalformed(field)) return false;
  return field.destination === own && field.source === peer && field.path.every(({ used }) => used);
}

/** Stations of the older version do not tell: their kind does, and numbered answers are taken for answers. */
function isCommandFor(frame: Ax25Frame): boolean {
  const told = isCommand(frame);
  if (told !== null) return told;
  const { kind } = frame.control;
  return !['UA', 'DM', 'FRMR', 'RR', 'RNR', 'REJ', 'SREJ'].includes(kind);
}
