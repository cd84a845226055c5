import { del, get, set } from 'idb-keyval';
import { useEffect, useMemo, useState } from 'react';
import type { Attempt } from '@mistpeak/core/gateways/rank';
import type { AttemptView, DirectoryView } from '@mistpeak/contract/gateways';
import { command } from '../api';
import { keepAsking } from './keep-asking';
import { useLive } from './store';

const KEY = 'gateways';

interface Kept {
  readonly directory: DirectoryView;
  readonly attempts: readonly AttemptView[];
}

export interface Directory extends DirectoryView {
  /** With the hour of the day by this device's clock. */
  readonly attempts: readonly (Attempt & { readonly words: string })[];
}

/** All gateways and all tries: asked anew when the server has more, and kept in this browser for when it has no server. */
export function useDirectory(): Directory | undefined {
  const revision = useLive((state) => state.gateways.revision);
  const mailRevision = useLive((state) => state.mail.revision);
  const connection = useLive((state) => state.connection);
  const [kept, setKept] = useState<Kept>();
  useEffect(() => {
    if (connection === 'open') return keepAsking(fetchDirectory, setKept);
    let isStill = true;
    void get<Kept>(KEY).then(
      (value) => isStill && value && setKept(value),
      () => undefined,
    );
    return () => {
      isStill = false;
    };
  }, [revision, mailRevision, connection]);
  return useMemo(() => kept && withHours(kept), [kept]);
}

/** Also by a page that shows none of it: whoever leaves home has them. */
export async function fetchDirectory(): Promise<Kept> {
  const [directory, attempts] = await Promise.all([
    command<DirectoryView>('GET', '/gateways'),
    command<readonly AttemptView[]>('GET', '/gateways/attempts'),
  ]);
  const value = { directory, attempts };
  await set(KEY, value).catch(() => undefined);
  return value;
}

export const forgetDirectory = (): void => void del(KEY).catch(() => undefined);

const withHours = ({ directory, attempts }: Kept): Directory => ({
  ...directory,
  attempts: attempts.map((attempt) => ({ ...attempt, hour: new Date(attempt.atMs).getHours() })),
});
