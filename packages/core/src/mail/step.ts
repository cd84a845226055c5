import type { Stepped } from '../machine/machine.js';
import { Draft } from './draft.js';
import type { ExchangeContext, ExchangeEffect, ExchangeEvent, ExchangeState } from './exchange.js';
import { greet, greetingLine, unendedPrompt } from './greeting.js';
import { answerLine } from './our-turn.js';
import { takePart, turnOverWhenKept } from './taking.js';
import { decide, theirLine } from './their-turn.js';

/** A line without end is cut there: no line of the protocol is so long. */
const LONGEST_LINE = 4096;

/** One step of either end: `exchange` draws the conversation. */
export function step(
  state: ExchangeState,
  event: ExchangeEvent,
  context: ExchangeContext,
): Stepped<ExchangeState, ExchangeEffect> {
  if (state.phase === 'over') return [state, []];
  const draft = new Draft(state, context);
  take(draft, event);
  return draft.done();
}

function take(draft: Draft, event: ExchangeEvent): void {
  switch (event.kind) {
    case 'connected':
      if (draft.state.phase !== 'not connected') return;
      if (draft.context.role === 'called') return greet(draft);
      draft.set({ phase: 'greeting' });
      return draft.patience();
    case 'data':
      draft.receive(event.octets);
      draft.patience();
      return readOn(draft);
    case 'moving':
      return draft.patience();
    case 'kept':
      draft.set({ unkept: draft.state.unkept.filter((mid) => mid !== event.mid) });
      turnOverWhenKept(draft);
      return readOn(draft);
    case 'not kept':
      return draft.refuse('not kept', 'The message could not be stored here');
    case 'decided':
      if (draft.state.phase !== 'asking') return;
      decide(draft, event.answers);
      return readOn(draft);
    case 'stop':
      return stopPolitely(draft);
    case 'lost':
      return draft.end(draft.state.sid ? 'broken' : 'lost before greeting');
    case 'timer':
      if (event.timer === 'patience') return outOfPatience(draft);
      return decide(draft, {});
  }
}

function outOfPatience(draft: Draft): void {
  // While the operator or our own database is waited for, nobody else is silent.
  if (draft.state.phase === 'asking' || draft.state.phase === 'keeping') return draft.patience();
  draft.end('silent');
}

/** Once: it ends at the next turn of ours. Twice, or before anything began: at once. */
function stopPolitely(draft: Draft): void {
  const { phase, isStopping } = draft.state;
  if (isStopping || phase === 'not connected' || phase === 'greeting') return draft.end('stopped');
  draft.set({ isStopping: true });
  if (phase === 'asking') decide(draft, {});
}

/** All that has come, as far as it is whole. */
function readOn(draft: Draft): void {
  for (;;) {
    const { phase } = draft.state;
    if (phase === 'receiving') {
      if (!takePart(draft)) return;
      continue;
    }
    if (phase === 'asking' || phase === 'keeping' || phase === 'over' || phase === 'not connected') return;
    cutLine(draft);
    const line = draft.line();
    if (line === undefined) return phase === 'greeting' ? unendedPrompt(draft) : undefined;
    readLine(draft, line);
  }
}

function readLine(draft: Draft, line: string): void {
  if (draft.state.phase === 'greeting') return greetingLine(draft, line);
  if (draft.state.phase === 'awaiting answers') return answerLine(draft, line);
  theirLine(draft, line);
}

function cutLine(draft: Draft): void {
  const { input } = draft.state;
  const hasEnd = input.subarray(0, LONGEST_LINE + 1).some((octet) => octet === 0x0d || octet === 0x0a);
  if (hasEnd || input.length <= LONGEST_LINE) return;
  const cut = new Uint8Array(input.length + 1);
  cut.set(input.subarray(0, LONGEST_LINE));
  cut[LONGEST_LINE] = 0x0d;
  cut.set(input.subarray(LONGEST_LINE), LONGEST_LINE + 1);
  draft.set({ input: cut });
}
