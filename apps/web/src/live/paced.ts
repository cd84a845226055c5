import { useEffect, useRef, useState } from 'react';
import { useLive, type LiveState } from './store';

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

/**
 * What the stream has made of something, looked up at a slower pace: what changes in between draws nothing. select: the same
 * function for ever.
 */
export function usePacedLive<Value>(select: (state: LiveState) => Value, everyMs: number): Value {
  const [value, setValue] = useState(() => select(useLive.getState()));
  useEffect(() => {
    const timer = setInterval(() => setValue(() => select(useLive.getState())), everyMs);
    return () => clearInterval(timer);
  }, [select, everyMs]);
  return value;
}
