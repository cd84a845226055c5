import { useCallback, useEffect, useState } from 'react';
import type { Problem } from '@mistpeak/contract/failures';
import { keepAsking } from './keep-asking';
import { useLive } from './store';

export interface Asked<Value> {
  readonly value: Value | undefined;
  readonly problem: Problem | undefined;
  readonly again: () => void;
}

/**
 * What is asked of the server, and asked anew when the connection comes back or the revision grows, or where server or database
 * were away for a moment; the last answer stays meanwhile.
 */
export function useAsked<Value>(path: string | undefined, revision: number | string = 0): Asked<Value> {
  const connection = useLive((state) => state.connection);
  const [answer, setAnswer] = useState<{ path: string; value?: Value; problem?: Problem | undefined }>();
  const [times, setTimes] = useState(0);
  useEffect(() => {
    if (path === undefined || connection !== 'open') return;
    return keepAsking<Value>(
      path,
      (value) => setAnswer({ path, value }),
      (problem) => setAnswer((last) => (last?.path === path ? { ...last, problem } : { path, problem })),
    );
  }, [path, revision, connection, times]);
  const fits = answer?.path === path ? answer : undefined;
  return { value: fits?.value, problem: fits?.problem, again: useCallback(() => setTimes((n) => n + 1), []) };
}
