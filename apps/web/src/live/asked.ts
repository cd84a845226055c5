import { useCallback, useEffect, useState } from 'react';
import type { Problem } from '@mistpeak/contract/failures';
import { command, problemOf } from '../api';
import { useLive } from './store';

export interface Asked<Value> {
  readonly value: Value | undefined;
  readonly problem: Problem | undefined;
  readonly again: () => void;
}

/** What is asked of the server, and asked anew when the connection comes back or the revision grows; the last answer stays meanwhile. */
export function useAsked<Value>(path: string | undefined, revision: number | string = 0): Asked<Value> {
  const connection = useLive((state) => state.connection);
  const [answer, setAnswer] = useState<{ path: string; value?: Value; problem?: Problem }>();
  const [times, setTimes] = useState(0);
  useEffect(() => {
    if (path === undefined || connection !== 'open') return;
    let isStill = true;
    command<Value>('GET', path)
      .then((value) => isStill && setAnswer({ path, value }))
      .catch((error: unknown) => isStill && setAnswer({ path, problem: problemOf(error) }));
    return () => {
      isStill = false;
    };
  }, [path, revision, connection, times]);
  const fits = answer?.path === path ? answer : undefined;
  return { value: fits?.value, problem: fits?.problem, again: useCallback(() => setTimes((n) => n + 1), []) };
}
