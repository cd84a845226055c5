import { useEffect, useState } from 'react';
import { useLive } from './store';

/** The server's time in ms, renewed every so often. */
export function useNow(everyMs = 1000): number {
  const offsetMs = useLive((state) => state.clockOffsetMs);
  const [nowMs, setNowMs] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNowMs(Date.now()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return nowMs + offsetMs;
}
