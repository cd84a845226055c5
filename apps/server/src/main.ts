import 'reflect-metadata';
import type { Server } from 'node:net';
import { createApplication } from './application.js';
import { LanService } from './lan/lan.service.js';
import { openToNetwork } from './lan/open-to-network.js';
import { readConfiguration } from './configuration.js';

const configuration = readConfiguration(process.env);
const app = await createApplication(configuration);
app.enableShutdownHooks();
await app.listen(configuration.port, '127.0.0.1');
if (configuration.lan) {
  // Certificates are for the clock of the phones, not for one of a demo.
  await openToNetwork(app, configuration.lan, Date.now());
  const addresses = app.get(LanService).addresses();
  console.log(`On the network: ${addresses.join('  ') || 'this machine has no network now'}`);
}
const { port } = (app.getHttpServer() as Server).address() as { port: number };
console.log(`ready ${port}`);

// A server whose launcher died would hold the links and the port.
if (process.env.MISTPEAK_ENDS_WITH_INPUT)
  process.stdin.resume().once('end', () => process.kill(process.pid, 'SIGTERM'));
