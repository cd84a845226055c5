import { test } from '@playwright/test';
import { lastLook } from './last-look.js';
import { TcpPeer } from './peers/kiss-peer.js';
import { Running } from './running.js';

/** What a journey works on; filled before its first test. */
export interface TestBench {
  running: Running;
  peer: TcpPeer;
}

/** Mistpeak and an independent KISS peer for the tests of this file or group; both are gone afterwards, also on failure. */
export function testBench(verb: 'demo' | 'start', ...options: readonly string[]): TestBench {
  const bench = {} as TestBench;
  test.beforeAll(async () => {
    bench.running = await Running.startFresh(verb, options);
    bench.peer = await TcpPeer.listen();
  });
  // Each test is a browser of its own, which the launcher must let in.
  test.beforeEach(async ({ page }) => {
    if (verb === 'start') await page.goto(await bench.running.newAddress());
  });
  test.afterEach(async ({ page }, { status, expectedStatus }) => {
    if (status !== expectedStatus) throw new Error(await lastLook(page, bench.running));
  });
  test.afterAll(async () => {
    // What did not come to be is not ended.
    const { peer, running }: Partial<TestBench> = bench;
    await peer?.close();
    await running?.stopAndForget();
  });
  return bench;
}
