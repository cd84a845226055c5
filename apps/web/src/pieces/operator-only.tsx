import type { ReactNode } from 'react';
import { useIsWatcher } from '../live/access';

/** What a watcher sees and cannot use: the browser greys out every field and button in it. */
export function OperatorOnly({ children }: { children: ReactNode }) {
  const isWatcher = useIsWatcher();
  return (
    <fieldset disabled={isWatcher} className="contents">
      {children}
    </fieldset>
  );
}
