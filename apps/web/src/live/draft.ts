import { useState } from 'react';

const PREFIX = 'draft ';

/** What somebody began to write and has not saved; kept in this browser. begunFrom: what stood there then. */
export interface Kept<Values> {
  readonly begunFrom: Values;
  readonly values: Values;
}

export function readKept<Values>(key: string): Kept<Values> | undefined {
  try {
    return (JSON.parse(localStorage.getItem(PREFIX + key) ?? 'null') as Kept<Values> | null) ?? undefined;
  } catch {
    // Storage is full or refused, or holds what another version of this page wrote: there is no draft.
    return undefined;
  }
}

export function writeKept<Values>(key: string, kept: Kept<Values> | undefined): void {
  try {
    if (kept === undefined) localStorage.removeItem(PREFIX + key);
    else localStorage.setItem(PREFIX + key, JSON.stringify(kept));
  } catch {
    // Storage is full or refused: the draft lasts as long as the page.
  }
}

/** As JSON, whatever the order of the fields; one that is absent and one that is null are the same. */
export const isAlike = (one: unknown, other: unknown): boolean => inOrder(one) === inOrder(other);

function inOrder(value: unknown): string {
  return JSON.stringify(value, (_, part: unknown) =>
    typeof part === 'object' && part !== null && !Array.isArray(part)
      ? Object.fromEntries(
          Object.entries(part)
            .filter(([, value]) => value !== null)
            .sort(([a], [b]) => (a < b ? -1 : 1)),
        )
      : part,
  );
}

export interface Draft<Values> {
  readonly values: Values;
  readonly set: (values: Values) => void;
  /** It was begun before this form came up. */
  readonly wasBegun: boolean;
  /** What is saved now, when it is not what this draft began with. */
  readonly elsewhere: Values | undefined;
  readonly keepMine: () => void;
  /** Also after it was saved: what is saved stands there. */
  readonly drop: () => void;
}

/** The values of a form on something that is saved: a draft outlives the page, and is told when somebody else saved. */
export function useDraft<Values>(key: string, saved: Values): Draft<Values> {
  const [kept, setKept] = useState(() => readKept<Values>(key));
  const keep = (next: Kept<Values> | undefined): void => {
    writeKept(key, next);
    setKept(next);
  };
  const [cameUpWith] = useState(kept);
  const isBegun = kept !== undefined && !isAlike(kept.values, saved);
  return {
    values: kept?.values ?? saved,
    set: (values) => keep({ begunFrom: kept?.begunFrom ?? saved, values }),
    wasBegun: isBegun && cameUpWith !== undefined,
    elsewhere: isBegun && !isAlike(kept.begunFrom, saved) ? saved : undefined,
    keepMine: () => kept && keep({ ...kept, begunFrom: saved }),
    drop: () => keep(undefined),
  };
}
