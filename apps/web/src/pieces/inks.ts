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

export function useInks(): Inks {
  return useSyncExternalStore(
    (changed) => {
      const observer = new MutationObserver(() => {
        current = undefined;
        changed();
      });
      observer.observe(document.documentElement, { attributeFilter: ['data-light', 'data-server'] });
      return () => observer.disconnect();
    },
    () => (current ??= read()),
  );
}
