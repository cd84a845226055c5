import type { Ax25Frame } from '../ax25/frame.js';
import type { Draft } from './draft.js';
import { calledAgain, isLateAnswer, reestablish } from './establishing.js';
import { answerPoll, receiveInformation } from './receiving.js';
import { answerXid, takeXid } from './negotiating.js';
import { goBackTo, sendAgain, setTimers, takeAcknowledgement } from './sending.js';

/** The states "connected" and "timer recovery": the same frames, but in recovery an answer with F ends it. */
export function heardWhileConnected(draft: Draft, frame: Ax25Frame, isCommand: boolean): void {
  const { control } = frame;
  switch (control.kind) {
    case 'I':
      return heardInformation(draft, frame, control.nr);
    case 'RR':
    case 'RNR':
    case 'REJ':
    case 'SREJ':
      return heardSupervisory(draft, control, isCommand);
    case 'SABM':
    case 'SABME':
      return calledAgain(draft, control.kind, control.pf);
    case 'DISC':
      draft.response({ kind: 'UA', pf: control.pf });
      return draft.disconnect('by the other end');
    case 'DM':
      return draft.disconnect('by the other end');
    case 'UA':
      if (isLateAnswer(draft)) return;
      draft.trouble('C: UA without a question');
      return reestablish(draft);
    case 'FRMR':
      draft.trouble('K: frame rejected by the other end');
      return reestablish(draft);
    case 'XID':
      return isCommand ? answerXid(draft, frame) : takeXid(draft, frame);
    case 'UI':
      // "Enquiry response": where we stand.
      return isCommand && control.pf ? answerPoll(draft) : undefined;
    case 'TEST':
      return;
  }
}

function heardInformation(draft: Draft, frame: Ax25Frame, nr: number): void {
  const before = draft.state.va;
  if (!takeAcknowledgement(draft, nr, false)) return;
  if (draft.state.phase === 'connected') setTimers(draft, draft.state.va !== before);
  receiveInformation(draft, frame);
}

function heardSupervisory(
  draft: Draft,
  { kind, pf, nr }: { kind: 'RR' | 'RNR' | 'REJ' | 'SREJ'; pf: boolean; nr: number },
  isCommand: boolean,
): void {
  const { state } = draft;
  const answersPoll = !isCommand && pf && state.phase === 'timer recovery';
  state.peerBusy = kind === 'RNR';
  if (kind === 'REJ' || kind === 'SREJ') state.rejected++;
  if (isCommand && pf) answerPoll(draft);
  // SREJ acknowledges what is before it only with F set (v2.2, "Selective reject").
  if (kind === 'SREJ' && !pf) return heardSelective(draft, nr);
  const before = state.va;
  if (!takeAcknowledgement(draft, nr, answersPoll)) return;
  const hadProgress = state.va !== before;
  if (answersPoll) return recovered(draft, kind === 'SREJ' ? nr : undefined);
  if (kind === 'SREJ') return heardSelective(draft, nr);
  if (state.phase === 'timer recovery') return;
  if (kind === 'REJ' && nr === state.va) goBackTo(draft, nr);
  setTimers(draft, hadProgress);
}

/** A number outside the window was asked for before, and has come since. */
function heardSelective(draft: Draft, nr: number): void {
  if (draft.distance(draft.state.va, nr) < draft.state.window.length) sendAgain(draft, nr);
}

/** Our question was answered: V(A) is what the other end has; go on from there. selective: only that frame is missing. */
function recovered(draft: Draft, selective: number | undefined): void {
  const { state } = draft;
  draft.stop('T1');
  draft.forgetAnswers();
  state.phase = 'connected';
  if (state.peerBusy) state.rc = 0;
  if (state.window.length === 0) {
    state.rc = 0;
    state.vs = state.va;
    return setTimers(draft, true);
  }
  if (selective !== undefined) {
    sendAgain(draft, selective);
    draft.start('T1');
  } else if (!state.peerBusy) goBackTo(draft, state.va);
}
