import { lazy, useEffect, useReducer, type ComponentType } from 'react';
import { useLive } from '../live/store';
import { Button } from '../pieces/button';

/** A page that stands in a file of its own. fetch: brings it here, and throws where it cannot. */
export interface LaterPage {
  readonly Page: ComponentType;
  readonly fetch: () => Promise<void>;
}

interface Shown {
  readonly again: () => void;
}

/** A server that stands still neither gives the page nor says no. */
const LIMIT_MS = 3000;

/**
 * Fetched when it is first seen. Where it does not come, words stand in its place and everything round it goes on; it is
 * fetched again when the server answers.
 */
export function later(load: () => Promise<ComponentType>): LaterPage {
  let loaded: ComponentType | undefined;
  let attempt: ComponentType<Shown> | undefined;
  const fetch = async (): Promise<void> => {
    loaded = await load();
  };
  const begin = (): ComponentType<Shown> =>
    lazy(async () => {
      await Promise.race([fetch().catch(() => undefined), new Promise((over) => setTimeout(over, LIMIT_MS))]);
      return { default: loaded ?? NotFetched };
    });
  function Page() {
    const [, draw] = useReducer((count: number) => count + 1, 0);
    const again = (): void => {
      attempt = undefined;
      draw();
    };
    const Now = loaded ?? (attempt ??= begin());
    return <Now again={again} />;
  }
  return { Page, fetch };
}

function NotFetched({ again }: Shown) {
  const isServerThere = useLive(({ connection }) => connection === 'open');
  useEffect(() => {
    if (!isServerThere) return;
    const timer = setTimeout(again, 500);
    return () => clearTimeout(timer);
  });
  return (
    <div className="flex max-w-xl flex-col items-start gap-3 p-8">
      <h1>This page is not here yet</h1>
      <p>
        Mistpeak did not give it. What runs goes on: links, what is heard, what was sent. It is fetched again
        as soon as Mistpeak answers.
      </p>
      <Button onClick={again}>Fetch it now</Button>
    </div>
  );
}
