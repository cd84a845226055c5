import { FAILURES, type Problem } from '@mistpeak/contract/failures';

/** A refusal of the server, in the operator's words. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.happened);
  }
}

/** One command to the server. Rejects with Refused, also when the server does not answer. */
export async function command<Answer>(
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<Answer> {
  const json =
    body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } };
  const response = await fetch(`/api/v1${path}`, { method, ...json, ...(signal ? { signal } : {}) }).catch(
    () => undefined,
  );
  if (!response) throw new Refused(noAnswer());
  if (response.status === 204) return undefined as Answer;
  const answer = (await response.json().catch(() => undefined)) as Answer | Problem | undefined;
  if (!response.ok)
    throw new Refused((answer as Problem | undefined)?.happened ? (answer as Problem) : noAnswer());
  return answer as Answer;
}

function noAnswer(): Problem {
  const text = FAILURES['server-away'];
  return { title: text.happened, status: 0, reason: 'server-away', ...text };
}

/** Any thrown thing as a problem to show. */
export function problemOf(error: unknown): Problem {
  if (error instanceof Refused) return error.problem;
  const text = FAILURES.internal;
  return { title: text.happened, status: 500, reason: 'internal', ...text };
}
