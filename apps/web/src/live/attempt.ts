import { useState } from 'react';
import type { Problem } from '@mistpeak/contract/failures';
import { problemOf } from '../api';

/** Something that the server may refuse: `attempt` does it and says whether it went well; `problem` is why the last one did not. */
export interface Attempt {
  readonly problem: Problem | undefined;
  /** One is on its way. */
  readonly isBusy: boolean;
  readonly attempt: (task: () => Promise<unknown>) => Promise<boolean>;
}

export function useAttempt(): Attempt {
  const [problem, setProblem] = useState<Problem>();
  const [underway, setUnderway] = useState(0);
  const attempt = async (task: () => Promise<unknown>): Promise<boolean> => {
    setProblem(undefined);
    setUnderway((count) => count + 1);
    try {
      await task();
      return true;
    } catch (error) {
      setProblem(problemOf(error));
      return false;
    } finally {
      setUnderway((count) => count - 1);
    }
  };
  return { problem, isBusy: underway > 0, attempt };
}
