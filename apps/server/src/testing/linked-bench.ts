import type { LinkView } from '@mistpeak/contract/link';
import type { Configuration } from '../configuration.js';
import { KissPeer } from './kiss-peer.js';
import { linkTo, makeDatabase, ServerUp } from './server-up.js';

/** A server on a database of its own, a peer, and an open link to it. A test may put another server in its place. */
export interface LinkedBench {
  databaseUrl: string;
  server: ServerUp;
  peer: KissPeer;
  link: LinkView;
}

/** Filled before the first test of the file, gone after its last. */
export function linkedBench(given: Partial<Configuration> = {}): LinkedBench {
  const bench = {} as LinkedBench;
  beforeAll(async () => {
    bench.databaseUrl = await makeDatabase();
    bench.server = await ServerUp.on(bench.databaseUrl, given);
    bench.peer = await KissPeer.listen();
    bench.link = (await bench.server.ask<LinkView>('POST', '/links', linkTo(bench.peer.port))).body;
    await bench.server.ask('POST', `/links/${bench.link.id}/open`);
    // The last of the parameters that every opening sends.
    await bench.peer.got('c00500c0');
  });
  afterAll(async () => {
    await bench.server.close();
    await bench.peer.close();
  });
  return bench;
}
