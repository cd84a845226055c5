import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Beside } from './beside.js';
import { startChild, type Child, type Wishes } from './child.js';
import { Cluster } from './cluster.js';
import { install, POSTGRES } from './debian.js';
import { historyFile, kitFile, mapFolder, readMemory, setUpDemo } from './demo.js';
import type { DemoPorts } from './demo-mail.js';
import { keepWay, newAddress, openInBrowser } from './entrance.js';
import { freePort, isFree } from './free-port.js';
import { HOME } from './home.js';
import { keepAlive, type Life } from './kept-alive.js';
import { processMark } from './process-mark.js';

const USUAL_PORT = 7373;
const LAN_PORT = 7374;

/** fault: what the TNC of the demo suffers from; closed: the service that is silent; at: the time that its world begins with, now if absent. */
export interface DemoOptions {
  readonly fault?: string | undefined;
  readonly closed?: string | undefined;
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

/**
 * Starts database, stand-ins (in the demo) and server, and keeps them alive; runs until Ctrl-C; stops them in the opposite
 * order.
 */
export async function run({ demo, port, data, fresh, lan }: RunOptions): Promise<number> {
  install(POSTGRES);
  const stops: (() => Promise<void> | void)[] = [claim(data)];
  const stopAll = async (): Promise<void> => {
    for (const stop of stops.splice(0).reverse()) await stop();
  };
  const over = whenTold();
  try {
    const cluster = new Cluster(data);
    if (fresh) forget(cluster, data);
    // The island reckons its history while the database starts.
    const startingTnc = demo ? startTnc(data, demo) : undefined;
    startingTnc?.catch(() => undefined);
    const databaseUrl = await startDatabase(fresh ? new Cluster(data) : cluster, stops);
    const tnc = await startingTnc;
    if (tnc) stops.push(tnc.stop);
    const beside = demo ? undefined : new Beside(data, await freePort());
    if (beside) stops.push(() => beside.stop());
    const server = new RunningServer(data, beside, {
      MISTPEAK_DATABASE_URL: databaseUrl,
      MISTPEAK_PORT: String(await pagePort(port)),
      MISTPEAK_MAPS: join(data, 'maps'),
      ...(demo ? { MISTPEAK_MAP: mapFolder(data), MISTPEAK_TRUSTS_LOOPBACK: '1' } : {}),
      ...(tnc ? { MISTPEAK_PRACTICE_PORT: String(tnc.practicePort) } : {}),
      ...(beside ? { MISTPEAK_BESIDE_PORT: String(beside.port) } : {}),
      ...(demo?.at ? { MISTPEAK_AT: demo.at } : {}),
      ...(lan ? await openWayFromNetwork(data) : {}),
    });
    const kept = await keepAlive('Mistpeak', () => server.start(), console.log);
    stops.push(() => kept.stop());
    stops.push(keepWay(data, { port: server.port, secret: server.secret }));
    const nowMs = demo?.at ? Date.parse(demo.at) : Date.now();
    if (tnc) await setUpDemo(`http://127.0.0.1:${server.port}`, data, { ...tnc, tncPort: tnc.port }, nowMs);
    await sayWhere(data, server.port, demo !== undefined);
    const code = await Promise.race([over, ...(tnc ? [ended(tnc)] : [])]);
    if (code === 0) console.log('\nStopping ...');
    return code;
  } finally {
    await stopAll();
  }
}

/** The demo asks nobody on this machine; else the address lets its first opener in, and none other. */
async function sayWhere(data: string, port: number, isDemo: boolean): Promise<void> {
  const address = isDemo ? `http://127.0.0.1:${port}` : await newAddress(data);
  const about = isDemo
    ? '  (demo: stand-ins only)'
    : '\nThis address lets one browser in, once; ./mistpeak address prints another.';
  console.log(`\nMistpeak is at ${address}${about}\nCtrl-C stops it.`);
  if (!isDemo) openInBrowser(await newAddress(data), data);
}

/** Whatever ends it, it is started again on the same port, so that the server finds it. */
async function startDatabase(cluster: Cluster, stops: (() => Promise<void> | void)[]): Promise<string> {
  let url = '';
  const start = async (): Promise<Life> => {
    if (url === '') url = await cluster.start();
    else cluster.startAgain();
    return cluster.life();
  };
  const kept = await keepAlive('PostgreSQL', start, console.log);
  stops.push(() => kept.stop());
  return url;
}

/** The server's process, started again with the same port and the same secret. */
class RunningServer {
  readonly secret = randomBytes(32).toString('base64url');
  port = 0;

  constructor(
    private readonly data: string,
    /** The practice world that it may wish for; the demo is one itself, and has none. */
    private readonly beside: Beside | undefined,
    private readonly env: NodeJS.ProcessEnv,
  ) {}

  async start(): Promise<Life> {
    const child = await startServer(
      {
        ...this.env,
        ...(this.port === 0 ? {} : { MISTPEAK_PORT: String(this.port) }),
        MISTPEAK_DATA: this.data,
        ...(this.beside ? { MISTPEAK_LAUNCHER_SECRET: this.secret } : {}),
      },
      {
        'forget authority': () => rmSync(authorityFolder(this.data), { recursive: true, force: true }),
        'practise beside': () => this.beside?.begin(),
      },
    );
    this.port = child.port;
    return { over: ended(child).then((code) => `code ${code}`), stop: child.stop };
  }
}

const authorityFolder = (data: string): string => join(data, 'authority');

/** A certificate for this machine as it is called now. Its maker ends before the server begins, which never holds the authority's key. */
async function openWayFromNetwork(data: string): Promise<NodeJS.ProcessEnv> {
  const served = join(data, 'lan');
  const maker = join(HOME, 'apps/server/dist/lan/issue.js');
  const { status } = spawnSync(process.execPath, [maker, authorityFolder(data), served], {
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (status !== 0) throw new Error(`The certificate for the network could not be made in ${data}.`);
  return { MISTPEAK_LAN_PORT: String(await freePort(LAN_PORT)), MISTPEAK_LAN_FOLDER: served };
}

/** One launcher per data folder. A number that another process has got since is no launcher. */
function claim(data: string): () => void {
  mkdirSync(data, { recursive: true });
  const file = join(data, 'launcher.pid');
  const mark = existsSync(file) ? readFileSync(file, 'utf8') : '';
  const isOther =
    mark !== '' && mark === processMark(Number.parseInt(mark, 10)) && !mark.startsWith(`${process.pid} `);
  if (isOther)
    throw new Error(`Mistpeak runs already on ${data}. Stop it first, or give another folder with --data.`);
  writeFileSync(file, processMark(process.pid) ?? '');
  return () => rmSync(file, { force: true });
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
async function startTnc(
  data: string,
  { fault, closed, at }: DemoOptions,
): Promise<Child & Omit<DemoPorts, 'tncPort'> & { readonly practicePort: number }> {
  const memory = readMemory(data);
  const internetPort = await freePort(memory.internetPort);
  const mailPort = await freePort(memory.mailPort);
  const modemPorts = [
    await freePort(memory.modemPorts?.[0]),
    await freePort(memory.modemPorts?.[1]),
  ] as const;
  const radioPort = await freePort(memory.radioPort);
  const practicePort = await freePort();
  const options = ['--port', String(await freePort(memory.tncPort)), '--map', mapFolder(data)];
  options.push('--internet', String(internetPort), '--mail', String(mailPort), '--radio', String(radioPort));
  options.push(
    '--practice',
    String(practicePort),
    '--command',
    String(modemPorts[0]),
    '--data',
    String(modemPorts[1]),
  );
  if (memory.linkId === undefined) options.push('--history', historyFile(data), '--kit', kitFile(data));
  if (fault) options.push('--fault', fault);
  if (closed) options.push('--closed', closed);
  if (at) options.push('--at', at);
  return {
    ...(await startChild(join(HOME, 'packages/standins/dist/main.js'), options, {})),
    internetPort,
    mailPort,
    modemPorts,
    radioPort,
    practicePort,
  };
}

export function startServer(env: NodeJS.ProcessEnv, wishes: Wishes = {}): Promise<Child> {
  const more = { MISTPEAK_WEB: join(HOME, 'apps/web/dist'), NODE_ENV: 'production', ...env };
  return startChild(join(HOME, 'apps/server/dist/bundle/main.js'), [], more, wishes);
}

function whenTold(): Promise<number> {
  return new Promise((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => resolve(0));
    if (process.env.MISTPEAK_ENDS_WITH_INPUT) process.stdin.resume().once('end', () => resolve(0));
  });
}

function ended({ process: child }: Child): Promise<number> {
  return new Promise((resolve) => child.once('exit', (code) => resolve(code ?? 1)));
}
