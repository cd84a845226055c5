import { useState } from 'react';
import type { Problem } from '@mistpeak/contract/failures';
import { problemOf } from '../api';

/** Something that the server may refuse: `attempt` does it and says whether it went well; `problem` is why the last one did not. */
export function useAttempt(): {
  readonly problem: Problem | undefined;
  readonly attempt: (task: () => Promise<unknown>) => Promise<boolean>;
} {
  const [problem, setProblem] = useState<Problem>();
  const attempt = async (task: () => Promise<unknown>): Promise<boolean> => {
    setProblem(undefined);
    try {
      await task();
      return true;
    } catch (error) {
      setProblem(problemOf(error));
      return false;
    }
  };
  return { problem, attempt };
}
