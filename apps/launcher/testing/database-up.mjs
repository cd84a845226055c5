import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
// Jest does not transform this file: it uses the built launcher, which ./mistpeak test builds first.
import { Cluster } from '../dist/cluster.js';
import { install, POSTGRES } from '../dist/debian.js';

/** A real PostgreSQL for one run of the tests, made and thrown away. */
export default async function databaseUp() {
  install(POSTGRES);
  const cluster = new Cluster(mkdtempSync(join(tmpdir(), 'mistpeak-jest-')), false);
  process.env.MISTPEAK_TEST_DATABASE_URL = await cluster.start();
  globalThis.mistpeakCluster = cluster;
}
