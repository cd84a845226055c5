import { COMMAND_ID } from '@mistpeak/contract/command-id';
import { FAILURES, type FailureReason, type Problem } from '@mistpeak/contract/failures';
import { useReplaying } from './live/replaying';
import { useLive } from './live/store';

/** A refusal of the server, in the operator's words. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.happened);
  }
}

type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';

const ANSWERED_WITHIN_MS = 10_000;
/** A server that is known to be away is given less. */
const AWAY_ANSWERED_WITHIN_MS = 2000;
/** Two presses so close are one (the double clicks of common systems are at most 0.5 s apart; common practice, no source). */
const PRESSED_TWICE_WITHIN_MS = 600;

const CUT_OFF = Symbol('cut off');

/** Ids of what was asked and not answered, by the question: asked again, it is the same command. */
const unanswered = new Map<string, string>();
const underway = new Map<string, Promise<unknown>>();
let last: { readonly question: string; readonly answer: unknown; readonly atMs: number } | undefined;

/**
 * One command to the server. Rejects with Refused, also when the server does not answer. Whatever changes something has
 * an id: pressed twice, or again after no answer came, it is done once. signal: gives it up; without one it waits 10 s.
 */
export function command<Answer>(
  method: Method,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<Answer> {
  if (method === 'GET') return ask<Answer>(method, path, body, signal);
  if (useReplaying.getState().isOn) return Promise.reject(refusal('replaying'));
  const question = `${method} ${path} ${JSON.stringify(body)}`;
  // What a page can give up takes long; done, it is asked anew.
  const same = underway.get(question) ?? (signal ? undefined : pressedJustNow(question));
  if (same) return same as Promise<Answer>;
  const id = unanswered.get(question) ?? crypto.randomUUID();
  unanswered.set(question, id);
  const answer = ask<Answer>(method, path, body, signal, { [COMMAND_ID]: id })
    .then((value) => {
      unanswered.delete(question);
      last = { question, answer: value, atMs: performance.now() };
      return value;
    })
    .catch((error: unknown) => {
      if (problemOf(error).reason !== 'server-away') unanswered.delete(question);
      throw error;
    })
    .finally(() => underway.delete(question));
  underway.set(question, answer);
  return answer;
}

function pressedJustNow(question: string): Promise<unknown> | undefined {
  if (last?.question !== question || performance.now() - last.atMs > PRESSED_TWICE_WITHIN_MS)
    return undefined;
  return Promise.resolve(last.answer);
}

/** A file to the server as it is; a large one takes its time. Rejects with Refused. */
export async function sendFile<Answer = void>(
  method: 'PUT' | 'POST',
  path: string,
  file: Blob,
  type: string,
): Promise<Answer> {
  if (useReplaying.getState().isOn) throw refusal('replaying');
  const answer = await fetch(`/api/v1${path}`, {
    method,
    headers: { 'content-type': type },
    body: file,
  }).catch(() => undefined);
  return answerOf<Answer>(answer);
}

async function ask<Answer>(
  method: Method,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
  headers: Readonly<Record<string, string>> = {},
): Promise<Answer> {
  const json = body === undefined ? {} : { body: JSON.stringify(body) };
  const response = await fetch(`/api/v1${path}`, {
    method,
    ...json,
    headers: { ...headers, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
    signal: signal ?? AbortSignal.timeout(patienceMs()),
  }).catch(() => undefined);
  return answerOf<Answer>(response);
}

/** What a response says, which may be nothing; cut off in the midst of it, or in no words of ours, it is no answer. */
async function answerOf<Answer>(response: Response | undefined): Promise<Answer> {
  if (!response) throw new Refused(noAnswer());
  const said = await response
    .text()
    .then((text) => (text === '' ? undefined : (JSON.parse(text) as Answer | Problem)))
    .catch(() => CUT_OFF);
  if (said === CUT_OFF) throw new Refused(noAnswer());
  if (!response.ok)
    throw new Refused((said as Problem | undefined)?.happened ? (said as Problem) : noAnswer());
  return said as Answer;
}

const patienceMs = (): number =>
  useLive.getState().connection === 'away' ? AWAY_ANSWERED_WITHIN_MS : ANSWERED_WITHIN_MS;

const noAnswer = (): Problem => problemHere('server-away');

const refusal = (reason: FailureReason): Refused => new Refused(problemHere(reason));

/** One that no server told. */
function problemHere(reason: FailureReason): Problem {
  const text = FAILURES[reason];
  return { title: text.happened, status: 0, reason, ...text };
}

/** Any thrown thing as a problem to show. */
export function problemOf(error: unknown): Problem {
  if (error instanceof Refused) return error.problem;
  const text = FAILURES.internal;
  return { title: text.happened, status: 500, reason: 'internal', ...text };
}
