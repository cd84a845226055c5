import type { FailureReason, Problem } from '@mistpeak/contract/failures';
import { command, problemOf } from '../api';

/** What goes by without anybody's doing. */
const PASSES: readonly string[] = ['server-away', 'database-away'] satisfies FailureReason[];
const AGAIN_AFTER_MS = 2000;

/**
 * Asks the server for what a page shows, and again as long as it or its database is away: who looks is told meanwhile, and
 * need not ask anew. what: a path, or how it is asked; take: the answer; tell: why there is none yet, undefined when there is; everyMs: so long
 * after each answer or refusal it is asked anew. Returns what gives it up.
 */
export function keepAsking<Answer>(
  what: string | (() => Promise<Answer>),
  take: (answer: Answer) => void,
  tell: (problem: Problem | undefined) => void = () => undefined,
  everyMs?: number,
): () => void {
  let isWanted = true;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const asked = typeof what === 'string' ? () => command<Answer>('GET', what) : what;
  const ask = (): void =>
    void asked().then(
      (answer) => {
        if (!isWanted) return;
        tell(undefined);
        take(answer);
        if (everyMs !== undefined) timer = setTimeout(ask, everyMs);
      },
      (error: unknown) => {
        if (!isWanted) return;
        const problem = problemOf(error);
        tell(problem);
        const waitMs = PASSES.includes(problem.reason) ? AGAIN_AFTER_MS : everyMs;
        if (waitMs !== undefined) timer = setTimeout(ask, waitMs);
      },
    );
  ask();
  return () => {
    isWanted = false;
    clearTimeout(timer);
  };
}
