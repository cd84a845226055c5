import { lazy, useEffect, useReducer, useRef, type ComponentType } from 'react';
import { useLive } from '../live/store';
import { Button } from '../pieces/button';

/** A page that stands in a file of its own. fetch: brings it here, and throws where it cannot. */
export interface LaterPage {
  readonly Page: ComponentType;
  readonly fetch: () => Promise<void>;
}

/** again: at once; forget: at the next visit. */
interface Shown {
  readonly again: () => void;
  readonly forget: () => void;
}

/** After so long words stand in its place; it may come all the same. */
const LIMIT_MS = 3000;

/**
 * Fetched when it is first seen. Where it does not come, words stand in its place and everything round it goes on; it is
 * shown when it comes late, and fetched again when the server answers again.
 */
export function later(load: () => Promise<ComponentType>): LaterPage {
  let loaded: ComponentType | undefined;
  const fetch = async (): Promise<void> => {
    loaded = await load();
  };
  /** Asks when it is first drawn. */
  const begin = (): ComponentType<Shown> =>
    lazy(async () => {
      const coming = fetch().then(
        () => true,
        () => false,
      );
      await Promise.race([coming, new Promise((over) => setTimeout(over, LIMIT_MS))]);
      return { default: loaded ?? ((shown: Shown) => <NotFetched {...shown} coming={coming} />) };
    });
  let attempt = begin();
  const forget = (): void => void (attempt = begin());
  function Page() {
    const [, draw] = useReducer((count: number) => count + 1, 0);
    const again = (): void => {
      forget();
      draw();
    };
    const Now = loaded ?? attempt;
    return <Now again={again} forget={forget} />;
  }
  return { Page, fetch };
}

/** coming: whether it came in the end. */
function NotFetched({ again, forget, coming }: Shown & { coming: Promise<boolean> }) {
  useEffect(() => forget, [forget]);
  useEffect(() => {
    let isGone = false;
    void coming.then((hasCome) => hasCome && !isGone && again());
    return () => {
      isGone = true;
    };
    // Of one attempt there is one answer.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [coming]);
  const isServerThere = useLive(({ connection }) => connection === 'open');
  const wasAway = useRef(false);
  useEffect(() => {
    if (!isServerThere) wasAway.current = true;
    else if (wasAway.current) again();
    // Each time the server comes or goes; while it stands there a second try would tell the same.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [isServerThere]);
  return (
    <div className="flex max-w-xl flex-col items-start gap-3 p-8">
      <h1>This page is not here yet</h1>
      <p>
        Mistpeak did not give it. What runs goes on: links, what is heard, what was sent. It is fetched again
        when Mistpeak is back. If it does not come though Mistpeak is there, Mistpeak was renewed meanwhile:
        load all of it anew.
      </p>
      <div className="flex flex-wrap gap-3">
        <Button onClick={again}>Fetch it now</Button>
        <Button onClick={() => location.reload()}>Load all of it anew</Button>
      </div>
    </div>
  );
}
