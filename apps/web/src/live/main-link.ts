import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { LinkView } from '@mistpeak/contract/link';
import { useLive } from './store';

const OPEN = ['hearing', 'silent', 'transmitting'];

/** With several radios: the one that this browser works with. */
export const useChosenLink = create<{ readonly id: string | undefined }>()(
  persist((): { readonly id: string | undefined } => ({ id: undefined }), { name: 'chosen-link' }),
);

export function chooseLink(id: string): void {
  useChosenLink.setState({ id });
}

/** The link that the status line speaks of and the beacon goes to: the chosen one, else the first open one, else the first. */
export function useMainLink(): LinkView | undefined {
  const chosen = useChosenLink(({ id }) => id);
  return useLive(
    ({ links }) =>
      links.find(({ id }) => id === chosen) ?? links.find(({ phase }) => OPEN.includes(phase)) ?? links[0],
  );
}

export function isOpen({ phase }: LinkView): boolean {
  return OPEN.includes(phase);
}
