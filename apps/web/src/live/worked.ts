import type { Comparison, StreamPage } from '@mistpeak/contract/logbook';
import { useAsked, type Asked } from './asked';

/** When something worked, newest first. Of what went well only what proves a way: a port that opens proves little. */
export const useWorked = (limit: number, isWanted = true): Asked<StreamPage> =>
  useAsked<StreamPage>(
    isWanted
      ? `/logbook?ok=yes&kinds=trial,session,mail,gateway,beacon,message&words=&limit=${limit}`
      : undefined,
  );

/** What is otherwise at one time than at another; undefined: nothing is asked. Times in ms since 1970. */
export const useCompared = (fromMs: number | undefined, toMs: number): Asked<Comparison> =>
  useAsked<Comparison>(
    fromMs === undefined
      ? undefined
      : `/logbook/compare?fromMs=${fromMs}&toMs=${Math.max(fromMs, Math.floor(toMs))}`,
  );
