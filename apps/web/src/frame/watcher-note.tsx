import { Eye } from 'lucide-react';
import { useIsWatcher } from '../live/access';
import { useReplaying } from '../live/replaying';

/** On every page of a watcher. */
export function WatcherNote() {
  const isReplaying = useReplaying(({ isOn }) => isOn);
  if (!useIsWatcher() || isReplaying) return null;
  return (
    <section
      aria-label="Watcher"
      className="flex items-center gap-2 border-b border-line bg-raise px-7 py-1.5 text-[14px] max-md:px-4"
    >
      <Eye className="size-4 shrink-0" aria-hidden />
      <b className="font-[640]">Watching.</b>
      <span className="text-ink2">Everything is shown; nothing is changed or sent from here.</span>
    </section>
  );
}
