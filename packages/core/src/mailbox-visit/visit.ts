import { callWithoutSsid } from '../callsign/callsign.js';
import { start, stop, type Stepped, type TimerEffect, type TimerEvent } from '../machine/machine.js';
import { identityOf, parseListing, type Row } from './listing.js';
import { recognisePrompt } from './prompt.js';

/**
 * A visit to a mailbox that was planned off the air and runs by itself:
 *
 *   wait for the prompt ─> list ─> read what is for me ─> leave messages ─> kill what was read ─> list again ─> bye
 *
 * Each step is a command, and what comes until the prompt stands again. Reading is proved by text; what was left or killed by
 * the listing after it, by sender and subject, since numbers move. The first surprise stops the visit and is named; the
 * session stays open for the operator.
 */
export interface Letter {
  readonly to: string;
  readonly subject: string;
  readonly text: string;
}

export interface VisitPlan {
  /** Whose messages are "for me": the call, with whatever SSID. */
  readonly me: string;
  readonly reads: boolean;
  readonly leave: readonly Letter[];
  readonly killsRead: boolean;
  readonly bye: boolean;
  /** How this mailbox ends a text (common practice: /EX on a line of its own, or Ctrl-Z). */
  readonly endOfText: string;
}

export type Task =
  | { readonly kind: 'prompt' }
  | { readonly kind: 'list' }
  | { readonly kind: 'read'; readonly row: Row }
  | { readonly kind: 'leave'; readonly letter: Letter }
  | { readonly kind: 'kill'; readonly row: Row }
  | { readonly kind: 'list again' }
  | { readonly kind: 'bye' };

export interface Step {
  readonly task: Task;
  readonly state: 'waits' | 'runs' | 'done' | 'stopped';
  /** The proof, or the surprise. */
  readonly words?: string;
  /** What was read. */
  readonly text?: string;
}

export interface VisitState {
  readonly plan: VisitPlan;
  readonly steps: readonly Step[];
  /** What came since the last command. */
  readonly gathered: string;
  readonly promptKey?: string;
  /** While a message is left: what is awaited. */
  readonly leaving?: 'subject' | 'text' | 'prompt';
  readonly outcome: 'runs' | 'done' | 'stopped';
}

export type VisitEvent =
  /** What came, as text. */
  | { readonly kind: 'heard'; readonly text: string }
  | { readonly kind: 'ended' }
  | { readonly kind: 'stop' }
  | TimerEvent;

export type VisitTimer = 'answer' | 'quiet';

export type VisitEffect =
  /** Lines without their ends. */
  { readonly kind: 'say'; readonly lines: readonly string[] } | TimerEffect<VisitTimer>;

/** A slow link with many repetitions takes its time; what has not moved for so long does not move (ours). */
export const ANSWER_WITHIN_MS = 5 * 60_000;
/** A question without a mark is taken for one when nothing follows it for so long (ours). */
export const QUIET_MS = 12_000;
const MOST_GATHERED = 100_000;

type Outcome = Stepped<VisitState, VisitEffect>;

export function beginVisit(plan: VisitPlan): Outcome {
  const tasks: Task[] = [{ kind: 'prompt' }, { kind: 'list' }];
  const steps = tasks.map((task, i): Step => ({ task, state: i === 0 ? 'runs' : 'waits' }));
  return [{ plan, steps, gathered: '', outcome: 'runs' }, [start('answer', ANSWER_WITHIN_MS)]];
}

export function step(state: VisitState, event: VisitEvent): Outcome {
  if (state.outcome !== 'runs') return [state, []];
  switch (event.kind) {
    case 'heard':
      return heard({ ...state, gathered: (state.gathered + event.text).slice(-MOST_GATHERED) });
    case 'ended':
      return ended(state);
    case 'stop':
      return surprise(state, 'stopped by the operator');
    case 'timer':
      return event.timer === 'quiet' ? asks(state) : surprise(state, 'nothing came for five minutes');
  }
}

const running = ({ steps }: VisitState): Step | undefined => steps.find(({ state }) => state === 'runs');

function heard(state: VisitState): Outcome {
  const patience = start('answer' as const, ANSWER_WITHIN_MS);
  const prompt = recognisePrompt(state.gathered);
  const { promptKey, leaving } = state;
  if (prompt && (promptKey === undefined || promptKey === prompt.key)) {
    const [next, effects] = prompted({ ...state, promptKey: prompt.key });
    return [next, [patience, ...effects]];
  }
  if (leaving !== 'subject' && leaving !== 'text') return [state, [patience]];
  if (/(?:[:?>]|\/EX\S*|ctrl-?z\S*)[\s.)\]]*$/i.test(state.gathered)) {
    const [next, effects] = asks(state);
    return [next, [patience, ...effects]];
  }
  return [state, [patience, start('quiet', QUIET_MS)]];
}

/** It asks for a subject, or for the text. */
function asks(state: VisitState): Outcome {
  const task = running(state)?.task;
  if (task?.kind !== 'leave' || state.gathered.trim() === '') return [state, []];
  const { subject, text } = task.letter;
  if (state.leaving === 'subject')
    return [{ ...state, leaving: 'text', gathered: '' }, [stop('quiet'), say(subject)]];
  if (state.leaving !== 'text') return [state, []];
  const lines = [...text.split(/\r\n|\r|\n/), state.plan.endOfText];
  return [{ ...state, leaving: 'prompt', gathered: '' }, [stop('quiet'), { kind: 'say', lines }]];
}

const say = (...lines: string[]): VisitEffect => ({ kind: 'say', lines });

/** The prompt stands again: what came since the command is its whole answer. */
function prompted(state: VisitState): Outcome {
  const one = running(state);
  if (!one) return [state, []];
  const { task } = one;
  const answer = state.gathered;
  switch (task.kind) {
    case 'prompt':
      return next(done(state, 'its prompt stands'));
    case 'list':
      return listed(state, answer);
    case 'read':
      return isRefusal(answer) || answer.trim().split(/[\r\n]+/).length < 2
        ? surprise(state, `number ${task.row.number} was not given: ${lastWords(answer)}`)
        : next(done(state, `read, ${answer.length} characters`, answer));
    case 'leave':
      return state.leaving === 'prompt'
        ? next(done({ ...withoutLeaving(state) }, 'left; the listing will prove it'))
        : surprise(state, `the message to ${task.letter.to} was not taken: ${lastWords(answer)}`);
    case 'kill':
      return next(done(state, 'asked; the listing will prove it'));
    case 'list again':
      return provedByListing(state, answer);
    case 'bye':
      return [state, []];
  }
}

const withoutLeaving = ({ leaving: _, ...state }: VisitState): VisitState => state;

const isRefusal = (answer: string): boolean =>
  /\b(?:not found|no such|invalid|unknown|error|denied|not for you|\?\?)/i.test(answer.slice(0, 200));

function lastWords(answer: string): string {
  const lines = answer
    .split(/[\r\n]+/)
    .map((line) => line.trim())
    .filter((line) => line !== '');
  return `“${(lines.slice(0, -1).at(-1) ?? lines.at(-1) ?? 'no words').slice(0, 80)}”`;
}

/** The first listing decides what the rest of the visit is. */
function listed(state: VisitState, answer: string): Outcome {
  const { plan } = state;
  const listing = parseListing(answer);
  if (
    !listing &&
    (plan.reads || plan.killsRead) &&
    !/\b(?:no|0)\b.{0,20}\b(?:messages?|mail)\b|\bempty\b/i.test(answer)
  )
    return surprise(state, `its listing was not understood: ${lastWords(answer)}`);
  const rows = listing?.rows ?? [];
  const mine = rows.filter(({ to }) => callWithoutSsid(to) === callWithoutSsid(plan.me));
  const tasks: Task[] = [
    ...(plan.reads ? mine.map((row): Task => ({ kind: 'read', row })) : []),
    ...plan.leave.map((letter): Task => ({ kind: 'leave', letter })),
    ...(plan.reads && plan.killsRead ? mine.map((row): Task => ({ kind: 'kill', row })) : []),
  ];
  if (tasks.some(({ kind }) => kind !== 'read')) tasks.push({ kind: 'list again' });
  if (plan.bye) tasks.push({ kind: 'bye' });
  const words = `${rows.length} listed, ${mine.length} for ${callWithoutSsid(plan.me)}`;
  const told = done(state, words);
  return next({ ...told, steps: [...told.steps, ...tasks.map((task): Step => ({ task, state: 'waits' }))] });
}

/** By sender and subject: what was left is there once more than before, what was killed is not. */
function provedByListing(state: VisitState, answer: string): Outcome {
  const rows = parseListing(answer)?.rows ?? [];
  const there = (one: Pick<Row, 'from' | 'to' | 'subject'>): Row | undefined =>
    rows.find((row) => identityOf(row) === identityOf(one));
  const from = callWithoutSsid(state.plan.me);
  const leftOut: string[] = [];
  for (const { task } of state.steps) {
    if (task.kind === 'kill' && there(task.row))
      leftOut.push(`“${task.row.subject}” from ${task.row.from} is still there`);
    if (task.kind === 'leave' && !rows.some((row) => isLetter(row, task.letter, from)))
      leftOut.push(`the message to ${task.letter.to}, “${task.letter.subject}”, is not in the listing`);
  }
  return leftOut.length > 0
    ? surprise(state, leftOut.join('; '))
    : next(done(state, `${rows.length} listed: all as planned`));
}

/** A mailbox may cut subjects, and show calls with or without SSID. */
function isLetter(row: Row, { to, subject }: Letter, from: string): boolean {
  const plain = (text: string): string => text.trim().toLowerCase();
  const shown = plain(row.subject);
  const isSubject =
    shown !== ''
      ? plain(subject).startsWith(shown) || shown.startsWith(plain(subject))
      : plain(subject) === '';
  return (
    callWithoutSsid(row.from) === from &&
    callWithoutSsid(row.to) === callWithoutSsid(to.toUpperCase()) &&
    isSubject
  );
}

function done(state: VisitState, words: string, text?: string): VisitState {
  const steps = state.steps.map((one): Step =>
    one.state === 'runs' ? { ...one, state: 'done', words, ...(text === undefined ? {} : { text }) } : one,
  );
  return { ...state, steps, gathered: '' };
}

function next(state: VisitState): Outcome {
  const at = state.steps.findIndex((one) => one.state === 'waits');
  const one = state.steps[at];
  if (!one) return [{ ...state, outcome: 'done' }, [stop('answer'), stop('quiet')]];
  const steps = state.steps.map((other, i): Step => (i === at ? { ...other, state: 'runs' } : other));
  const begun = { ...state, steps, gathered: '' };
  return one.task.kind === 'leave'
    ? [{ ...begun, leaving: 'subject' }, [say(commandOf(one.task))]]
    : [begun, [say(commandOf(one.task))]];
}

/** The literal command of a task. */
export function commandOf(task: Task): string {
  switch (task.kind) {
    case 'prompt':
      return '';
    case 'list':
    case 'list again':
      return 'L';
    case 'read':
      return `R ${task.row.number}`;
    case 'leave':
      return `S ${task.letter.to}`;
    case 'kill':
      return `K ${task.row.number}`;
    case 'bye':
      return 'B';
  }
}

function surprise(state: VisitState, words: string): Outcome {
  const steps = state.steps.map((one): Step =>
    one.state === 'runs' ? { ...one, state: 'stopped', words } : one,
  );
  return [{ ...state, steps, outcome: 'stopped' }, [stop('answer'), stop('quiet')]];
}

function ended(state: VisitState): Outcome {
  if (running(state)?.task.kind !== 'bye') return surprise(state, 'the session ended');
  return [{ ...done(state, 'it said good-bye'), outcome: 'done' }, [stop('answer'), stop('quiet')]];
}
