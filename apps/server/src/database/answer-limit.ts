const STEPS = 6;

/** Calls once after that time; the returned function cancels. */
type After = (ms: number, call: () => void) => () => void;

const systemAfter: After = (ms, call) => {
  const timer = setTimeout(call, ms);
  return () => clearTimeout(timer);
};

/**
 * The answer, or the error of a query that ran out of time. Only time counts in which this process was there to hear it: one that
 * stood still (asleep, starved of its processor) finds the answer waiting, and must not take the database for silent.
 */
export function answerWithin<Answer>(
  limitMs: number,
  answer: Promise<Answer>,
  after: After = systemAfter,
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    let steps = 0;
    let cancel = (): void => undefined;
    // However late a step comes it is one: what came meanwhile is heard before the next.
    const step = (): void => {
      if (steps++ === STEPS) reject(new Error('Query read timeout'));
      else cancel = after(limitMs / STEPS, step);
    };
    step();
    answer.then(resolve, reject).finally(() => cancel());
  });
}
