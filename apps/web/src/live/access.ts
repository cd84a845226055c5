import { create } from 'zustand';
import type { AccessView } from '@mistpeak/contract/access';
import { command } from '../api';
import { keepAsking } from './keep-asking';
import { useReplaying } from './replaying';
import { forgetState } from './kept-state';

/** Until the server has said who this browser is, it is taken for a watcher: nothing is offered too early. */
const UNKNOWN: AccessView = {
  role: 'watcher',
  isLocal: false,
  isTrusted: false,
  isLoggedIn: false,
  passwords: { operator: false, watcher: false },
  addresses: [],
};

export const useAccess = create<AccessView>(() => UNKNOWN);

/** Asks again who this browser is: at the start, and after each login and logout. */
export async function askAccess(): Promise<void> {
  const access = await command<AccessView>('GET', '/access');
  useAccess.setState(access, true);
  if (access.role === null) forgetState();
}

let giveUp = (): void => undefined;

/** Asks again, and until the server has said it: without its word nothing could be done here. */
export function learnAccess(): void {
  giveUp();
  giveUp = keepAsking(askAccess, () => undefined);
}

/** Who may only look: a watcher, and whoever looks at a past hour. */
export function useIsWatcher(): boolean {
  const isReplaying = useReplaying(({ isOn }) => isOn);
  return useAccess(({ role }) => role !== 'operator') || isReplaying;
}
