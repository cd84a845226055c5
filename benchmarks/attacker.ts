import { connect } from 'node:net';

/** Of each kind. */
export const REQUESTS = 1000;
const AT_ONCE = 50;
const LONGEST_MS = 300;

/** One bad request or message, as octets; all without a login. */
export interface Hostility {
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

/** One after another, so that each is seen by itself. */
export const HOSTILITIES: readonly Hostility[] = [
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

/** Fifty at once, until all were sent. */
async function inflict({ octets }: Hostility, host: string): Promise<void> {
  const [address = '', port = ''] = host.split(':');
  const bytes = octets(host);
  let left = REQUESTS;
  const one = (): Promise<void> =>
    new Promise((resolve) => {
      const socket = connect(Number(port), address);
      const end = setTimeout(() => socket.destroy(), LONGEST_MS);
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

/** As a program of its own: which of them, and whom. */
const [, , which, host] = process.argv;
const wanted = HOSTILITIES.find(({ name }) => name === which);
if (process.send && wanted && host) {
  await inflict(wanted, host);
  process.disconnect();
}
