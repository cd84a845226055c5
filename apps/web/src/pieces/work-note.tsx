import { Button } from './button';

/** How far a long reckoning is, and how to stop it; or why it failed. */
export function WorkNote({
  work: { share, failed, stop },
  words,
}: {
  work: {
    readonly share: number | undefined;
    readonly failed: string | undefined;
    readonly stop: () => void;
  };
  words: string;
}) {
  if (failed !== undefined)
    return (
      <p role="alert" className="text-[14px] text-stop">
        It could not be reckoned: {failed}. Try again; if it stays, reload the page.
      </p>
    );
  if (share === undefined) return null;
  const percent = Math.round(share * 100);
  return (
    <div className="flex items-center gap-3 text-[14px]">
      <span className="w-44">{words} …</span>
      <progress aria-label={words} value={percent} max={100} className="h-2 flex-1 accent-(--proved)" />
      <span className="w-12 font-mono">{percent} %</span>
      <Button onClick={stop}>Stop</Button>
    </div>
  );
}
