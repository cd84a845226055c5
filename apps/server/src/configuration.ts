import type { Clock } from '@mistpeak/link/clock';
import type { Machine } from './departure/machine.js';

/** HTTPS for the network: its port, and the folder with the certificate that the launcher has made for it. */
export interface LanConfiguration {
  readonly port: number;
  readonly folder: string;
}

/** What the launcher tells the server, in the environment. */
export interface Configuration {
  readonly databaseUrl: string;
  readonly port: number;
  /** The built page; absent in tests of the server alone. */
  readonly webFolder: string | undefined;
  /** Where what waits for the database is kept between two starts; absent in tests that stop in no such state. */
  readonly dataFolder?: string | undefined;
  /** For tests, which move it; the system's, if absent. */
  readonly clock?: Clock | undefined;
  /** What the computer tells of itself; for tests, the system's, if absent. */
  readonly machine?: Machine | undefined;
  /** The map of the place; absent where there is none. */
  readonly mapFolder?: string | undefined;
  /** Where the operator’s own map files lie; absent in tests that have none. */
  readonly mapsFolder?: string | undefined;
  /** Time that the clock shows at the start, ms since 1970; the system's, if absent. For tests and pictures. */
  readonly startsAtMs?: number | undefined;
  /** Who is on this machine is the operator: for the demo, whose far ends are stand-ins only. */
  readonly trustsLoopback?: boolean | undefined;
  /** Who knows it may ask for addresses that let the operator in. */
  readonly launcherSecret?: string | undefined;
  /** The radios here are stand-ins that take orders at this port of this machine. */
  readonly practicePort?: number | undefined;
  /** A practice world that whoever started us can start beside, and the port of its page. */
  readonly beside?: { readonly port: number; readonly begin: () => void } | undefined;
  /** Ends this process at once; whoever keeps it alive starts it again. Absent in tests, which do it themselves. */
  readonly startAgain?: (() => void) | undefined;
  /** Absent: on this machine only. */
  readonly lan?: LanConfiguration | undefined;
}

export const CONFIGURATION = Symbol('configuration');

export function readConfiguration(environment: NodeJS.ProcessEnv): Configuration {
  const { MISTPEAK_DATABASE_URL, MISTPEAK_PORT, MISTPEAK_WEB, MISTPEAK_MAP, MISTPEAK_AT } = environment;
  const { MISTPEAK_DATA, MISTPEAK_TRUSTS_LOOPBACK, MISTPEAK_LAUNCHER_SECRET } = environment;
  const { MISTPEAK_PRACTICE_PORT, MISTPEAK_BESIDE_PORT } = environment;
  const { MISTPEAK_LAN_PORT, MISTPEAK_LAN_FOLDER, MISTPEAK_MAPS } = environment;
  if (!MISTPEAK_DATABASE_URL)
    throw new Error('MISTPEAK_DATABASE_URL is not set: start Mistpeak with ./mistpeak start');
  return {
    databaseUrl: MISTPEAK_DATABASE_URL,
    port: Number(MISTPEAK_PORT ?? 0),
    webFolder: MISTPEAK_WEB,
    mapFolder: MISTPEAK_MAP,
    mapsFolder: MISTPEAK_MAPS,
    startAgain: () => process.exit(0),
    dataFolder: MISTPEAK_DATA,
    trustsLoopback: MISTPEAK_TRUSTS_LOOPBACK === '1',
    launcherSecret: MISTPEAK_LAUNCHER_SECRET,
    practicePort: MISTPEAK_PRACTICE_PORT ? Number(MISTPEAK_PRACTICE_PORT) : undefined,
    // The launcher reads this.
    beside: MISTPEAK_BESIDE_PORT
      ? { port: Number(MISTPEAK_BESIDE_PORT), begin: () => console.log('practise beside') }
      : undefined,
    startsAtMs: MISTPEAK_AT ? Date.parse(MISTPEAK_AT) : undefined,
    ...(MISTPEAK_LAN_PORT && MISTPEAK_LAN_FOLDER
      ? { lan: { port: Number(MISTPEAK_LAN_PORT), folder: MISTPEAK_LAN_FOLDER } }
      : {}),
  };
}
