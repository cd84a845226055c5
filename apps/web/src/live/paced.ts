import { useEffect, useRef, useState } from 'react';

/** A value that changes many times a second, followed at a slower pace by what is dear to draw. */
export function usePaced<Value>(value: Value, everyMs: number): Value {
  const [paced, setPaced] = useState(value);
  const latest = useRef(value);
  useEffect(() => void (latest.current = value));
  useEffect(() => {
    const timer = setInterval(() => setPaced(latest.current), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return paced;
}
