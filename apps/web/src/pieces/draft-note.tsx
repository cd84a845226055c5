import { Button } from './button';

/** What was begun before and not saved stands in the form again. */
export function DraftNote({ drop }: { drop: () => void }) {
  return (
    <p className="flex flex-wrap items-center gap-3 text-[13.5px] text-ink2">
      What you began before stands here; it is not saved yet.
      <Button onClick={drop}>Start again from what is saved</Button>
    </p>
  );
}
