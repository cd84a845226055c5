import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { startChild, type Child } from './child.js';
import { Cluster } from './cluster.js';
import { install, POSTGRES } from './debian.js';
import { historyFile, kitFile, readMemory, setUpDemo } from './demo.js';
import { freePort, isFree } from './free-port.js';
import { HOME } from './home.js';

const USUAL_PORT = 7373;
const LAN_PORT = 7374;

/** fault: what the TNC of the demo suffers from; at: the time that its world begins with, now if absent. */
export interface DemoOptions {
  readonly fault?: string | undefined;
  readonly at?: string | undefined;
}

export interface RunOptions {
  readonly demo: DemoOptions | undefined;
  readonly port: number | undefined;
  readonly data: string;
  readonly fresh: boolean;
  /** HTTPS for the network too. */
  readonly lan: boolean;
}

/** Starts database, stand-ins (in the demo) and server; runs until Ctrl-C; stops them in the opposite order. */
export async function run({ demo, port, data, fresh, lan }: RunOptions): Promise<number> {
  install(POSTGRES);
  const release = claim(data);
  const stops: (() => Promise<void> | void)[] = [release];
  const stopAll = async (): Promise<void> => {
    for (const stop of stops.splice(0).reverse()) await stop();
  };
  const over = whenTold();
  try {
    const cluster = new Cluster(data);
    if (fresh) forget(cluster, data);
    stops.push(() => cluster.stop());
    // The island reckons its history while the database starts.
    const startingTnc = demo ? startTnc(data, demo) : undefined;
    startingTnc?.catch(() => undefined);
    const databaseUrl = await (fresh ? new Cluster(data) : cluster).start();
    const tnc = await startingTnc;
    if (tnc) stops.push(tnc.stop);
    const server = await startServer(databaseUrl, await pagePort(port), {
      ...(demo ? { MISTPEAK_MAP: mapFolder(data) } : {}),
      ...(demo && demo.at ? { MISTPEAK_AT: demo.at } : {}),
      ...(lan
        ? { MISTPEAK_LAN_PORT: String(await freePort(LAN_PORT)), MISTPEAK_LAN_FOLDER: join(data, 'lan') }
        : {}),
    });
    stops.push(server.stop);
    const address = `http://127.0.0.1:${server.port}`;
    if (tnc) await setUpDemo(address, data, tnc.port);
    console.log(`\nMistpeak is at ${address}${demo ? '  (demo: stand-ins only)' : ''}\nCtrl-C stops it.`);
    const code = await Promise.race([over, ended(server), ...(tnc ? [ended(tnc)] : [])]);
    if (code === 0) console.log('\nStopping ...');
    return code;
  } finally {
    await stopAll();
  }
}

/** One launcher per data folder. */
function claim(data: string): () => void {
  mkdirSync(data, { recursive: true });
  const file = join(data, 'launcher.pid');
  if (existsSync(file) && isAlive(Number(readFileSync(file, 'utf8'))))
    throw new Error(`Mistpeak runs already on ${data}. Stop it first, or give another folder with --data.`);
  writeFileSync(file, String(process.pid));
  return () => rmSync(file, { force: true });
}

function isAlive(pid: number): boolean {
  try {
    return pid !== process.pid && process.kill(pid, 0);
  } catch {
    return false;
  }
}

function forget(cluster: Cluster, data: string): void {
  cluster.remove();
  rmSync(join(data, 'demo.json'), { force: true });
}

async function pagePort(asked: number | undefined): Promise<number> {
  if (asked === undefined) return freePort(USUAL_PORT);
  if (!(await isFree(asked))) throw new Error(`Port ${asked} is in use. Give another with --port.`);
  return asked;
}

/** The stand-in world; at the first start it also writes the island's map and what was heard before. */
async function startTnc(data: string, { fault, at }: DemoOptions): Promise<Child> {
  const memory = readMemory(data);
  const options = ['--port', String(await freePort(memory.tncPort)), '--map', mapFolder(data)];
  if (memory.linkId === undefined) options.push('--history', historyFile(data), '--kit', kitFile(data));
  if (fault) options.push('--fault', fault);
  if (at) options.push('--at', at);
  return startChild(join(HOME, 'packages/standins/dist/main.js'), options, {});
}

function mapFolder(data: string): string {
  return join(data, 'map');
}

export function startServer(databaseUrl: string, port: number, more: NodeJS.ProcessEnv = {}): Promise<Child> {
  return startChild(join(HOME, 'apps/server/dist/main.js'), [], {
    MISTPEAK_DATABASE_URL: databaseUrl,
    MISTPEAK_PORT: String(port),
    MISTPEAK_WEB: join(HOME, 'apps/web/dist'),
    NODE_ENV: 'production',
    ...more,
  });
}

function whenTold(): Promise<number> {
  return new Promise((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => resolve(0));
  });
}

function ended({ process: child }: Child): Promise<number> {
  return new Promise((resolve) => child.once('exit', (code) => resolve(code ?? 1)));
}
