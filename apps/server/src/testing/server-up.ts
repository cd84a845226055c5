import 'reflect-metadata';
import { randomUUID } from 'node:crypto';
import { rmSync } from 'node:fs';
import type { AddressInfo, Server } from 'node:net';
import pg from 'pg';
import { WebSocket } from 'ws';
import { PULSE, type LiveEvent, type LiveKind } from '@mistpeak/contract/live';
import { createApplication } from '../application.js';
import type { Configuration } from '../configuration.js';
import { credentialsFor } from '../lan/authority.js';
import { ownAddresses, ownNames } from '../lan/lan.service.js';
import { openToNetwork } from '../lan/open-to-network.js';

/** A call of a series that is not allotted, for tests that transmit to peers on loopback; it does not begin with Q. */
export const TEST_CALL = '1X9TST';

export const OPERATOR = {
  call: TEST_CALL,
  region: 'europe-africa',
  units: 'metric',
  coordinates: 'decimal',
  place: '29.632 S 11.405 W',
};

export const BEACON = {
  source: `${TEST_CALL}-7`,
  place: '-29.632, -11.405',
  symbolTable: '/',
  symbolCode: '-',
  comment: 'test',
  path: 'WIDE1-1,WIDE2-1',
  format: 'plain',
  messaging: false,
  ambiguityDigits: 0,
  frequency: '',
};

/** A link's settings to a peer on loopback. */
export const linkTo = (port: number) => ({
  name: `peer ${port}`,
  kind: 'network',
  host: '127.0.0.1',
  port,
  airRate: 1200,
  txDelayMs: 300,
  persistence: 0.25,
  slotTimeMs: 100,
  txTailMs: 30,
});

export interface Answer<Body> {
  readonly status: number;
  readonly body: Body;
}

/** A fresh database on the PostgreSQL of this test run. */
export async function makeDatabase(): Promise<string> {
  const url = new URL(process.env.MISTPEAK_TEST_DATABASE_URL ?? '');
  const name = `test_${randomUUID().replaceAll('-', '')}`;
  const client = new pg.Client({ connectionString: url.href });
  await client.connect();
  await client.query(`CREATE DATABASE ${name}`);
  await client.end();
  url.pathname = `/${name}`;
  return url.href;
}

/** A running server: real database, real sockets. */
export class ServerUp {
  private constructor(
    readonly databaseUrl: string,
    readonly port: number,
    readonly close: () => Promise<void>,
    /** The port of HTTPS, where it was opened to the network. */
    readonly lanPort: number = 0,
  ) {}

  /** lanFolder: opened to the network too, with the authority that this folder keeps. */
  static async on(
    databaseUrl: string,
    { lanFolder, ...given }: Partial<Configuration> & { readonly lanFolder?: string } = {},
  ): Promise<ServerUp> {
    const app = await createApplication({
      databaseUrl,
      port: 0,
      webFolder: undefined,
      trustsLoopback: true,
      ...given,
    });
    await app.listen(0, '127.0.0.1');
    const { port } = (app.getHttpServer() as Server).address() as AddressInfo;
    if (lanFolder === undefined) return new ServerUp(databaseUrl, port, () => app.close());
    const names = [...ownNames(), '127.0.0.1', ...ownAddresses()];
    const credentials = await credentialsFor(names, lanFolder, Date.now());
    const forget = (): void => rmSync(lanFolder, { recursive: true, force: true });
    const lan = await openToNetwork(app, 0, credentials, forget);
    const close = async (): Promise<void> => {
      lan.closeAllConnections();
      await new Promise((resolve) => lan.close(resolve));
      await app.close();
    };
    return new ServerUp(databaseUrl, port, close, (lan.address() as AddressInfo).port);
  }

  async ask<Body = Record<string, unknown>>(
    method: string,
    path: string,
    body?: unknown,
  ): Promise<Answer<Body>> {
    const json =
      body === undefined
        ? {}
        : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } };
    const response = await fetch(`http://127.0.0.1:${this.port}/api/v1${path}`, { method, ...json });
    const text = await response.text();
    return { status: response.status, body: (text === '' ? undefined : JSON.parse(text)) as Body };
  }

  /** Follows the event stream as a page does. */
  follow(query = ''): Page {
    return new Page(new WebSocket(`ws://127.0.0.1:${this.port}/api/v1/live${query}`));
  }
}

type EventOf<Kind extends LiveKind> = Extract<LiveEvent, { kind: Kind }>;

export class Page {
  readonly events: LiveEvent[] = [];
  pulses = 0;

  constructor(private readonly socket: WebSocket) {
    socket.on('message', (data: Buffer) => {
      const text = data.toString();
      if (text === PULSE) this.pulses++;
      else this.events.push(JSON.parse(text) as LiveEvent);
    });
    socket.on('error', () => undefined);
  }

  /** The first event of that kind, past or to come, that fits. */
  async find<Kind extends LiveKind>(
    kind: Kind,
    fits: (data: EventOf<Kind>['data']) => boolean = () => true,
  ): Promise<EventOf<Kind>['data']> {
    const isIt = (one: LiveEvent): one is EventOf<Kind> =>
      one.kind === kind && fits(one.data as EventOf<Kind>['data']);
    const event = await until<LiveEvent>(`a ${kind} event`, () => this.events.find(isIt));
    return event.data as EventOf<Kind>['data'];
  }

  close(): void {
    this.socket.close();
  }
}

/** Waits until the question has an answer; a test that waits two minutes has failed. */
export async function until<Value>(
  what: string,
  ask: () => Value | undefined | Promise<Value | undefined>,
): Promise<Value> {
  for (let tries = 0; tries < 6000; tries++) {
    const value = await ask();
    if (value !== undefined && value !== false) return value;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  throw new Error(`${what} did not come`);
}
