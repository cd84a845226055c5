import { useSyncExternalStore } from 'react';

const NAMES = [
  'paper',
  'sheet',
  'raise',
  'line',
  'edge',
  'ink',
  'ink2',
  'ink3',
  'proved',
  'provedfill',
  'onproved',
  'look',
  'stop',
  'r1',
  'r2',
  'r3',
  'r4',
] as const;

/** The colours of the present light, for what is drawn on a canvas and cannot read CSS variables. */
export type Inks = Readonly<Record<(typeof NAMES)[number], string>>;

let current: Inks | undefined;

function read(): Inks {
  const style = getComputedStyle(document.documentElement);
  return Object.fromEntries(NAMES.map((name) => [name, style.getPropertyValue(`--${name}`).trim()])) as Inks;
}

export const useInks = (): Inks => useSyncExternalStore(subscribe, () => (current ??= read()));

const listeners = new Set<() => void>();
let observer: MutationObserver | undefined;

function subscribe(changed: () => void): () => void {
  listeners.add(changed);
  observer ??= observe();
  return () => {
    listeners.delete(changed);
    if (listeners.size > 0) return;
    observer?.disconnect();
    observer = undefined;
    // Nobody looks for a new light meanwhile.
    current = undefined;
  };
}

function observe(): MutationObserver {
  const made = new MutationObserver(() => {
    const fresh = read();
    // The same colours are the same inks: with new ones a whole map is drawn anew, hills and all.
    if (NAMES.every((name) => fresh[name] === current?.[name])) return;
    current = fresh;
    for (const changed of listeners) changed();
  });
  made.observe(document.documentElement, { attributeFilter: ['data-light', 'data-server'] });
  return made;
}
