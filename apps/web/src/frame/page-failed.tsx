import { useRouteError } from 'react-router';
import { Button } from '../pieces/button';

/** A part of a page did not come, or failed: the frame round it stays, and with it the lock and the links; unless all of it failed. */
export function PageFailed({ isWhole = false }: { isWhole?: boolean }) {
  const error = useRouteError();
  return (
    <div role="alert" className="flex max-w-xl flex-col items-start gap-3 p-8">
      <h1>This page cannot be shown</h1>
      <p>
        A part of it did not come, or failed. What runs goes on: links, what is heard, what was sent.{' '}
        {isWhole
          ? 'Load all of it anew. Until then the transmitter cannot be locked from here: to be sure switch the radio off.'
          : 'Go to another page, or load all of it anew when Mistpeak answers.'}
      </p>
      <p className="font-mono text-[13px] text-ink2">
        {error instanceof Error ? error.message : String(error)}
      </p>
      <Button onClick={() => location.reload()}>Load all of it anew</Button>
    </div>
  );
}
