import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { StepTick } from '@mistpeak/core/sheet/sheet-text';
import type { TickSettings, TickView } from '@mistpeak/contract/chain';
import { command, Refused } from '../api';
import { noteTick, useLive } from './store';

interface Waiting {
  readonly chainId: string;
  readonly settings: TickSettings;
  readonly atMs: number;
}

/**
 * Ticks that the server has not taken yet, and what is half written: kept in the browser, so that a phone that was
 * turned, locked or put to sleep in mid-list goes on where it was.
 */
interface SheetMemory {
  readonly waiting: readonly Waiting[];
  readonly drafts: Readonly<Record<string, { readonly measured: string; readonly note: string }>>;
}

export const useSheetMemory = create<SheetMemory>()(
  persist((): SheetMemory => ({ waiting: [], drafts: {} }), { name: 'sheet-memory' }),
);

export const draftKey = (chainId: string, stepId: string): string => `${chainId} ${stepId}`;

export function writeDraft(key: string, draft: { readonly measured: string; readonly note: string }): void {
  useSheetMemory.setState(({ drafts }) => ({ drafts: { ...drafts, [key]: draft } }));
}

/** Ticks a step: at once in the page, and on the server as soon as it answers. */
export function tickStep(chainId: string, settings: TickSettings): void {
  const waiting: Waiting = { chainId, settings, atMs: Date.now() };
  useSheetMemory.setState((state) => ({ waiting: [...state.waiting, waiting] }));
  void sendWaiting();
}

let isSending = false;

/** Hands over what waits, in its order; stops at the first that finds no server. */
export async function sendWaiting(): Promise<void> {
  if (isSending) return;
  isSending = true;
  try {
    for (
      let first = useSheetMemory.getState().waiting[0];
      first;
      first = useSheetMemory.getState().waiting[0]
    ) {
      if (!(await isTaken(first))) return;
      useSheetMemory.setState(({ waiting }) => ({ waiting: waiting.slice(1) }));
    }
  } finally {
    isSending = false;
  }
}

/** True when it is done with: taken, or refused for good. */
async function isTaken({ chainId, settings }: Waiting): Promise<boolean> {
  try {
    // Noted at once: the event of it comes a moment later, and the tick must not go out in between.
    noteTick(await command<TickView>('POST', `/chains/${chainId}/ticks`, settings));
    return true;
  } catch (error) {
    return error instanceof Refused && error.problem.status >= 400 && error.problem.status < 500;
  }
}

/** Sends what waits whenever the server is there again. */
export function followConnection(): void {
  useLive.subscribe((state, before) => {
    if (state.connection === 'open' && before.connection !== 'open') void sendWaiting();
  });
}

/** The last word on each step of a chain's sheet, those that wait included. */
export function useTicks(chainId: string): ReadonlyMap<string, StepTick> {
  const ticks = useLive((state) => state.ticks);
  const waiting = useSheetMemory((state) => state.waiting);
  const standing = new Map<string, StepTick>();
  for (const tick of ticks.values()) if (tick.chainId === chainId) standing.set(tick.stepId, tick);
  for (const one of waiting)
    if (one.chainId === chainId) standing.set(one.settings.stepId, { ...one.settings, atMs: one.atMs });
  return standing;
}
