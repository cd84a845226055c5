import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { createServer, Socket, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Child } from '../apps/launcher/src/child.js';
import { Cluster } from '../apps/launcher/src/cluster.js';
import { startServer } from '../apps/launcher/src/run.js';

/** The built server on a real, durable database, linked to a peer that the benchmark plays. */
export class Station {
  private constructor(
    readonly address: string,
    readonly databaseUrl: string,
    readonly peer: Socket,
    private readonly linkId: string,
    private readonly parts: { cluster: Cluster; server: Child; tnc: Server; folder: string },
  ) {}

  /** env: what the launcher would tell the server else; without a link where the peer may not come in to make one. */
  static async up(env: NodeJS.ProcessEnv = {}, link: Partial<typeof LINK> = {}): Promise<Station> {
    const folder = mkdtempSync(join(tmpdir(), 'mistpeak-benchmark-'));
    chmodSync(folder, 0o755);
    const cluster = new Cluster(folder);
    const databaseUrl = await cluster.start();
    const server = await startServer({
      MISTPEAK_DATABASE_URL: databaseUrl,
      MISTPEAK_PORT: '0',
      MISTPEAK_TRUSTS_LOOPBACK: '1',
      ...env,
    });
    const address = `http://127.0.0.1:${server.port}`;
    const tnc = createServer();
    await new Promise<void>((resolve) => tnc.listen(0, '127.0.0.1', resolve));
    const connected = new Promise<Socket>((resolve) => tnc.once('connection', resolve));
    const { port } = tnc.address() as { port: number };
    if (env.MISTPEAK_TRUSTS_LOOPBACK === '0')
      return new Station(address, databaseUrl, new Socket(), '', { cluster, server, tnc, folder });
    await ask(address, 'PUT', '/operator', OPERATOR);
    const { id } = await ask<{ id: string }>(address, 'POST', '/links', { ...LINK, ...link, port });
    await ask(address, 'POST', `/links/${id}/open`);
    const peer = await connected;
    peer.setNoDelay(true);
    peer.resume();
    return new Station(address, databaseUrl, peer, id, { cluster, server, tnc, folder });
  }

  get serverPid(): number {
    return this.parts.server.process.pid ?? 0;
  }

  /** Opens the lock for the benchmark's call, with a beacon of it at hand. */
  async arm(): Promise<void> {
    await ask(this.address, 'PUT', '/beacon', BEACON);
    await ask(this.address, 'PUT', `/links/${this.linkId}/lock`, { call: BEACON.source });
  }

  /** The least that a request of the server takes. */
  bareRequest(): Promise<unknown> {
    return ask(this.address, 'GET', '/beacon');
  }

  sendBeacon(): Promise<unknown> {
    return ask(this.address, 'POST', '/beacon/transmissions', { id: randomUUID(), linkId: this.linkId });
  }

  /** Lends the linked TNC to programs at that port of this machine. */
  share(port: number, newMayTransmit = false): Promise<unknown> {
    return ask(this.address, 'PUT', `/links/${this.linkId}/sharing`, {
      isOn: true,
      port,
      reach: 'loopback',
      isReachConfirmed: false,
      isAnnounced: false,
      newMayTransmit,
    });
  }

  async down(): Promise<void> {
    const { cluster, server, tnc, folder } = this.parts;
    AGENT.destroy();
    await server.stop();
    this.peer.destroy();
    tnc.close();
    cluster.remove();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Of a series that is not allotted; it goes to a peer on loopback alone. */
export const BENCHMARK_CALL = '1X9TST';

const OPERATOR = {
  call: BENCHMARK_CALL,
  region: 'europe-africa',
  units: 'metric',
  coordinates: 'decimal',
  place: '29.6 S 11.4 W',
};
const BEACON = {
  source: `${BENCHMARK_CALL}-7`,
  place: '29.6 S 11.4 W',
  symbolTable: '/',
  symbolCode: '-',
  comment: 'benchmark',
  path: 'WIDE1-1',
  format: 'plain',
  messaging: false,
  ambiguityDigits: 0,
  frequency: '',
};
const LINK = {
  name: 'benchmark',
  kind: 'network',
  host: '127.0.0.1',
  airRate: 1200,
  txDelayMs: 300,
  persistence: 0.25,
  slotTimeMs: 100,
  txTailMs: 30,
};

/** One line that stays open: what is measured is the server, and not how a client finds its way to it. */
const AGENT = new Agent({ keepAlive: true, maxSockets: 1 });

function ask<Answer>(address: string, method: string, path: string, body?: unknown): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const headers = body === undefined ? {} : { 'content-type': 'application/json' };
    const asked = request(`${address}/api/v1${path}`, { method, headers, agent: AGENT }, (answer) => {
      let text = '';
      answer.on('data', (part: Buffer) => (text += part.toString()));
      answer.on('end', () => {
        if (answer.statusCode !== undefined && answer.statusCode < 300) resolve(JSON.parse(text) as Answer);
        else reject(new Error(`${method} ${path}: ${text}`));
      });
    });
    asked.on('error', reject);
    asked.end(body === undefined ? undefined : JSON.stringify(body));
  });
}
