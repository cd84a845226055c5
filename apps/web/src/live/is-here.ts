import { useEffect, useRef, type RefObject } from 'react';

/** Whether what asked is still on the page: a late answer must not lead somebody away from where he has gone meanwhile. */
export function useIsHere(): RefObject<boolean> {
  const isHere = useRef(true);
  useEffect(() => {
    isHere.current = true;
    return () => {
      isHere.current = false;
    };
  }, []);
  return isHere;
}
