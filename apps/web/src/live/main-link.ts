import type { LinkView } from '@mistpeak/contract/link';
import { useLive } from './store';

const OPEN = ['hearing', 'silent', 'transmitting'];

/** The link that the status line speaks of: the first open one, else the first. */
export function useMainLink(): LinkView | undefined {
  return useLive((state) => state.links.find(({ phase }) => OPEN.includes(phase)) ?? state.links[0]);
}

export function isOpen({ phase }: LinkView): boolean {
  return OPEN.includes(phase);
}
