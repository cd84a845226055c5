import { del, get, set } from 'idb-keyval';
import { forgetDirectory } from './directory';
import { useReplaying } from './replaying';
import { useLive, type LiveState } from './store';

const KEY = 'last-state';
const KEPT_EVERY_MS = 20_000;

interface Kept {
  readonly atMs: number;
  readonly state: LiveState;
}

/** What was known last stays in this browser, so that a page that comes up without the server shows it, and says so. */
export function keepState(): void {
  const keep = (): void => {
    const state = useLive.getState();
    // A browser without room, or without storage, does without.
    if (state.connection === 'open' && !useReplaying.getState().isOn)
      void set(KEY, { atMs: Date.now(), state } satisfies Kept).catch(() => undefined);
  };
  setInterval(keep, KEPT_EVERY_MS);
  document.addEventListener('visibilitychange', () => document.visibilityState === 'hidden' && keep());
  // Soon after the first snapshot too: whoever looked once has something to look at.
  const stop = useLive.subscribe(({ connection }) => {
    if (connection !== 'open') return;
    stop();
    setTimeout(keep, 1000);
  });
}

/** Without a server from the beginning: what was kept, as of then; false where nothing is. */
export async function showKeptState(): Promise<boolean> {
  const kept = await get<Kept>(KEY).catch(() => undefined);
  if (!kept || useLive.getState().connection === 'open') return false;
  useLive.setState({ ...kept.state, connection: 'away', keptAtMs: kept.atMs });
  return true;
}

/** Whoever is nobody here any more leaves nothing behind. */
export function forgetState(): void {
  void del(KEY).catch(() => undefined);
  forgetDirectory();
}
