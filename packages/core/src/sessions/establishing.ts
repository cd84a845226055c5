import type { Ax25Frame } from '../ax25/frame.js';
import type { Draft } from './draft.js';
import { askByXid } from './negotiating.js';

/**
 * Setting up, being called, and letting go: the states "disconnected", "awaiting connection" (also v2.2) and
 * "awaiting release".
 *
 *   disconnected --connect--> awaiting connection --UA--> connected
 *                                  | DM, FRMR to SABME: again with SABM; DM to SABM, N2 tries: disconnected
 *   disconnected --SABM(E) heard--> connected
 *   connected --disconnect--> awaiting release --UA, DM, N2 tries--> disconnected
 */

/** SABME that nobody answers: older stations keep silent, so the next try is SABM (common practice, no source). */
const EXTENDED_TRIES = 3;

/** Sends SABM or SABME and waits for its answer ("Establish data link"). */
export function establish(draft: Draft): void {
  const { state } = draft;
  state.phase = 'awaiting connection';
  state.silent = state.calling;
  state.rc = 0;
  makeAnswersOld(draft);
  draft.stop('T2');
  draft.stop('T3');
  ask(draft);
}

function ask(draft: Draft): void {
  draft.command({ kind: draft.state.modulo === 128 ? 'SABME' : 'SABM', pf: true });
  draft.state.dueAnswers++;
  draft.state.askedAtMs = draft.atMs;
  draft.selectT1();
  draft.start('T1');
}

/** What was queued is gone, on both sides: say so, and set the link up anew. */
export function reestablish(draft: Draft): void {
  const lostOctets = draft.discardQueue();
  draft.beginLife();
  draft.state.calling = false;
  draft.tell({ kind: 'reset', lostOctets });
  establish(draft);
}

export function connect(draft: Draft): void {
  draft.beginLife();
  draft.forgetAnswers();
  draft.state.fellBack = false;
  draft.setNumbering(draft.options.extended ? 128 : 8);
  draft.state.roundTripMs = draft.options.firstT1Ms / 2;
  draft.state.calling = true;
  establish(draft);
}

export function askAgain(draft: Draft): void {
  const { state, options } = draft;
  state.timeouts++;
  if (state.rc >= options.retries) return draft.disconnect('no answer');
  state.rc++;
  state.fellBack = false;
  // Of a silent end no answers to earlier questions are under way.
  if (state.silent) state.oldAnswers = 0;
  if (state.modulo === 128 && state.silent && state.rc >= EXTENDED_TRIES) {
    draft.setNumbering(8);
    makeAnswersOld(draft);
  }
  ask(draft);
}

export function heardWhileDisconnected(draft: Draft, { control }: Ax25Frame, isCommand: boolean): void {
  const { kind, pf } = control;
  if (kind === 'SABM' || kind === 'SABME') {
    if (draft.options.accepts && (kind === 'SABM' || draft.options.extended)) return accept(draft, kind, pf);
    return draft.response({ kind: 'DM', pf });
  }
  if (kind === 'UI') return answerPolledUi(draft, pf, isCommand);
  // Whoever believes that there is a link learns that there is none; answers get no answer.
  if (isCommand && kind !== 'XID' && kind !== 'TEST') draft.response({ kind: 'DM', pf });
}

/** Without a link UI with P is answered by DM ("UI check" of these states); without P by nothing. */
function answerPolledUi(draft: Draft, poll: boolean, isCommand: boolean): void {
  if (poll && isCommand) draft.response({ kind: 'DM', pf: true });
}

function accept(draft: Draft, kind: 'SABM' | 'SABME', pf: boolean): void {
  const { state, options } = draft;
  draft.beginLife();
  draft.setNumbering(kind === 'SABME' ? 128 : 8);
  draft.response({ kind: 'UA', pf });
  state.roundTripMs = options.firstT1Ms / 2;
  state.phase = 'connected';
  draft.selectT1();
  draft.start('T3');
  draft.tell({ kind: 'connected', modulo: state.modulo, calledBy: 'them' });
}

export function heardWhileAwaitingConnection(draft: Draft, { control }: Ax25Frame, isCommand: boolean): void {
  const { state, options } = draft;
  const { kind, pf } = control;
  switch (kind) {
    case 'UA':
      if (pf && isForThisCall(draft)) stand(draft);
      return;
    case 'DM':
      if (!pf || !isForThisCall(draft)) return;
      // To SABME it may mean that the other end does not know it: ask once more with SABM.
      if (state.modulo === 128) fallBack(draft);
      else if (!state.fellBack) draft.disconnect('refused');
      return;
    case 'FRMR':
      if (state.modulo === 128 && isForThisCall(draft)) fallBack(draft);
      return;
    case 'SABM':
      // Both called at the same moment: each answers the other; to our SABME it will say nothing.
      state.silent = false;
      draft.response({ kind: 'UA', pf });
      if (state.modulo === 8) return;
      draft.forgetAnswers();
      fallBack(draft);
      return;
    case 'SABME':
      // Where we ask with SABM it learns that it must do so too.
      draft.response({ kind: options.extended && state.modulo === 128 ? 'UA' : 'DM', pf });
      return;
    case 'UI':
      return answerPolledUi(draft, pf, isCommand);
    case 'DISC':
      draft.response({ kind: 'DM', pf });
      return;
    default:
      // It believes that the link stands: only its UA was lost.
      state.silent = false;
  }
}

/** What answers earlier questions does not answer the next one, which asks for another life or other numbers. */
function makeAnswersOld({ state }: Draft): void {
  state.oldAnswers += state.dueAnswers;
  state.dueAnswers = 0;
}

/**
 * When T1 rang too early SABM was sent twice, and is answered twice. Taking the answer to an earlier one for that to this
 * one would mix two lives of the link, so it is passed over, as is one that came too soon (beyond the diagrams, which know no answers under way).
 */
function isForThisCall({ state, options, atMs }: Draft): boolean {
  // The first that is heard of a station may come as fast as it likes: the rate of the link may be set too low.
  const isOnlyOne = state.silent && state.dueAnswers + state.oldAnswers <= 1;
  if (!isOnlyOne && atMs - state.askedAtMs < options.earliestAnswerMs) return false;
  if (state.oldAnswers > 0) {
    state.oldAnswers--;
    return false;
  }
  state.dueAnswers--;
  return true;
}

/** UA while the link stands: a late answer, or a second copy before anything has passed, is nothing new. */
export function isLateAnswer({ state }: Draft): boolean {
  if (!state.settled) {
    // What came ahead of its turn before this answer is of the other end's earlier life.
    state.early = new Map();
    state.asked = new Set();
  }
  if (state.oldAnswers > 0) state.oldAnswers--;
  else if (state.dueAnswers > 0) state.dueAnswers--;
  else return !state.settled;
  return true;
}

function fallBack(draft: Draft): void {
  draft.setNumbering(8);
  draft.state.rc = 0;
  makeAnswersOld(draft);
  draft.state.fellBack = true;
  draft.stop('T1');
  ask(draft);
}

/** The link stands. After a reset nothing more is told: that was told when it began. */
function stand(draft: Draft): void {
  const { state } = draft;
  const { calling, modulo } = state;
  draft.stop('T1');
  draft.beginLife();
  state.phase = 'connected';
  state.calling = false;
  draft.selectT1();
  draft.start('T3');
  if (calling) draft.tell({ kind: 'connected', modulo, calledBy: 'us' });
  if (calling && modulo === 128 && draft.options.negotiates) askByXid(draft);
}

/** The other end calls while the link stands: nothing passed yet means that it only missed our UA. */
export function calledAgain(draft: Draft, kind: 'SABM' | 'SABME', pf: boolean): void {
  const { state, options } = draft;
  if (kind === 'SABME' && !options.extended) return draft.response({ kind: 'DM', pf });
  const wasSettled = state.settled;
  const again = [...state.window, ...state.pending];
  const lostOctets = wasSettled ? draft.discardQueue() : 0;
  draft.stop('T1');
  draft.beginLife();
  draft.setNumbering(kind === 'SABME' ? 128 : 8);
  state.window = [];
  state.pending = wasSettled ? [] : again;
  state.phase = 'connected';
  draft.response({ kind: 'UA', pf });
  draft.selectT1();
  draft.start('T3');
  if (wasSettled) draft.tell({ kind: 'reset', lostOctets });
}

export function release(draft: Draft): void {
  const { state } = draft;
  state.phase = 'awaiting release';
  state.rc = 0;
  draft.stop('T2');
  draft.stop('T3');
  draft.command({ kind: 'DISC', pf: true });
  draft.selectT1();
  draft.start('T1');
}

export function releaseAgain(draft: Draft): void {
  const { state, options } = draft;
  state.timeouts++;
  if (state.rc >= options.retries) return draft.disconnect('no answer');
  state.rc++;
  draft.command({ kind: 'DISC', pf: true });
  draft.selectT1();
  draft.start('T1');
}

export function heardWhileAwaitingRelease(draft: Draft, { control }: Ax25Frame, isCommand: boolean): void {
  const { kind, pf } = control;
  if ((kind === 'UA' || kind === 'DM') && pf) return draft.disconnect('asked for');
  if (kind === 'DISC') {
    draft.response({ kind: 'UA', pf });
    return draft.disconnect('asked for');
  }
  if (kind === 'SABM' || kind === 'SABME') return draft.response({ kind: 'DM', pf });
  if (kind === 'UI') return answerPolledUi(draft, pf, isCommand);
  // Data and polls get DM with F, so that the other end does not go on.
  if (isCommand && pf && kind !== 'XID' && kind !== 'TEST') draft.response({ kind: 'DM', pf });
}
