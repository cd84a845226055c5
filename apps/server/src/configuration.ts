/** What the launcher tells the server, in the environment. */
export interface Configuration {
  readonly databaseUrl: string;
  readonly port: number;
  /** The built page; absent in tests of the server alone. */
  readonly webFolder: string | undefined;
}

export const CONFIGURATION = Symbol('configuration');

export function readConfiguration(environment: NodeJS.ProcessEnv): Configuration {
  const { MISTPEAK_DATABASE_URL, MISTPEAK_PORT, MISTPEAK_WEB } = environment;
  if (!MISTPEAK_DATABASE_URL)
    throw new Error('MISTPEAK_DATABASE_URL is not set: start Mistpeak with ./mistpeak start');
  return { databaseUrl: MISTPEAK_DATABASE_URL, port: Number(MISTPEAK_PORT ?? 0), webFolder: MISTPEAK_WEB };
}
