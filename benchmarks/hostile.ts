import { connect } from 'node:net';
import { readFileSync } from 'node:fs';
import { Station } from './station.js';

const REQUESTS = 1000;
const AT_ONCE = 50;
const LONGEST_MS = 3000;

/** One bad request or message, as octets; all without a login. */
interface Hostility {
  readonly name: string;
  readonly octets: (host: string) => Buffer;
}

const head = (host: string, method: string, path: string, ...lines: string[]): string =>
  [`${method} ${path} HTTP/1.1`, `host: ${host}`, ...lines, '', ''].join('\r\n');
const json = 'content-type: application/json';
const post = (host: string, path: string, type: string, body: Buffer): Buffer =>
  Buffer.concat([Buffer.from(head(host, 'POST', path, type, `content-length: ${body.length}`)), body]);
const upgrade = [
  'upgrade: websocket',
  'connection: upgrade',
  'sec-websocket-version: 13',
  'sec-websocket-key: c2VhYmlyZCBjb3VudCAxMg==',
];

const KINDS: readonly Hostility[] = [
  {
    name: 'deep JSON, 870 kB',
    octets: (host) => post(host, '/api/v1/operator', json, Buffer.alloc(870_000, '[')),
  },
  {
    name: 'wide JSON, 1 MB',
    octets: (host) => post(host, '/api/v1/kit', json, Buffer.from(`{${'"a":1,'.repeat(170_000)}"a":1}`)),
  },
  {
    name: 'uploads of 5 MB',
    octets: (host) =>
      post(
        host,
        '/api/v1/links/0/captures',
        'content-type: application/vnd.tcpdump.pcap',
        Buffer.alloc(5_000_000),
      ),
  },
  {
    name: 'logins of 100 kB',
    octets: (host) => post(host, '/api/v1/access/login', json, Buffer.alloc(100_000, 'x')),
  },
  {
    name: 'guesses of a password',
    octets: (host) =>
      post(host, '/api/v1/access/login', json, Buffer.from('{"password":"guess after guess"}')),
  },
  {
    name: 'half-sent heads',
    octets: (host) => Buffer.from(`GET /api/v1/links HTTP/1.1\r\nhost: ${host}\r\nx-slow: `),
  },
  {
    name: 'half-sent bodies',
    octets: (host) =>
      Buffer.from(`${head(host, 'POST', '/api/v1/access/pair', json, 'content-length: 4000')}{"code":`),
  },
  { name: 'upgrades', octets: (host) => Buffer.from(head(host, 'GET', '/api/v1/live', ...upgrade)) },
  {
    name: 'upgrades with a message of 100 MB behind',
    octets: (host) =>
      Buffer.concat([
        Buffer.from(head(host, 'GET', '/api/v1/wire?link=0', ...upgrade)),
        Buffer.from([0x82, 0xff, 0, 0, 0, 0, 6, 0, 0, 0, 1, 2, 3, 4]),
        Buffer.alloc(100_000),
      ]),
  },
  { name: 'no HTTP at all', octets: () => Buffer.alloc(10_000, 0xc0) },
];

/** A thousand of each kind, fifty at once, while another asks: how long it waits, and what it costs in memory. */
export async function hostileBenchmark(): Promise<void> {
  const station = await Station.up({ MISTPEAK_TRUSTS_LOOPBACK: '0', MISTPEAK_LAUNCHER_SECRET: 'benchmark' });
  const host = new URL(station.address).host;
  const quiet = await waits(station, 20);
  console.log(`  another request, while all is quiet: at most ${quiet.toFixed(0)} ms`);
  let mostMs = 0;
  const before = memoryOf(station.serverPid);
  for (const kind of KINDS) {
    const others = watch(station);
    const from = performance.now();
    await inflict(kind, host);
    const seconds = (performance.now() - from) / 1000;
    const most = await others();
    mostMs = Math.max(mostMs, most);
    console.log(
      `  ${kind.name}: ${REQUESTS} in ${seconds.toFixed(1)} s; another waited at most ${most.toFixed(0)} ms; ${grown(station, before)} MB over before`,
    );
  }
  console.log(
    `  longest wait of another: ${mostMs.toFixed(0)} ms (aim 100); memory ${grown(station, before)} MB over before (aim 50)`,
  );
  await station.down();
}

async function inflict({ octets }: Hostility, host: string): Promise<void> {
  const [address = '', port = ''] = host.split(':');
  const bytes = octets(host);
  let left = REQUESTS;
  const one = (): Promise<void> =>
    new Promise((resolve) => {
      const socket = connect(Number(port), address);
      const end = setTimeout(() => socket.destroy(), LONGEST_MS / 10);
      socket.on('connect', () => socket.write(bytes));
      socket.on('data', () => socket.destroy());
      socket.on('error', () => undefined);
      socket.on('close', () => {
        clearTimeout(end);
        resolve();
      });
    });
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      while (left-- > 0) await one();
    }),
  );
}

/** Asks again and again until told to stop; the answer is the longest wait, ms. */
function watch(station: Station): () => Promise<number> {
  let isOver = false;
  let most = 0;
  const asking = (async () => {
    while (!isOver) most = Math.max(most, await waits(station, 1));
  })();
  return async () => {
    isOver = true;
    await asking;
    return most;
  };
}

async function waits({ address }: Station, times: number): Promise<number> {
  let most = 0;
  for (let i = 0; i < times; i++) {
    const from = performance.now();
    await fetch(`${address}/api/v1/access`).then((answer) => answer.arrayBuffer());
    most = Math.max(most, performance.now() - from);
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  return most;
}

/** Resident set, MB (proc(5), status). */
function memoryOf(pid: number): number {
  return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
}

const grown = (station: Station, before: number): string => (memoryOf(station.serverPid) - before).toFixed(0);
