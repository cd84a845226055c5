import 'reflect-metadata';
import type { Server } from 'node:net';
import { createApplication } from './application.js';
import { LanService } from './lan/lan.service.js';
import { openToNetwork } from './lan/open-to-network.js';
import { readServed } from './lan/served.js';
import { readConfiguration } from './configuration.js';
import { PlainWords } from './plain-words.js';

async function start(): Promise<void> {
  const configuration = readConfiguration(process.env);
  const app = await createApplication(configuration);
  app.enableShutdownHooks();
  await app.listen(configuration.port, '127.0.0.1');
  if (configuration.lan) {
    const { port, folder } = configuration.lan;
    // The launcher, which keeps it, reads this.
    await openToNetwork(app, port, readServed(folder), () => console.log('forget authority'));
    const addresses = app.get(LanService).addresses();
    console.log(`On the network: ${addresses.join('  ') || 'this machine has no network now'}`);
  }
  const { port } = (app.getHttpServer() as Server).address() as { port: number };
  console.log(`ready ${port}`);
}

await start().catch((error: unknown) => {
  // What the operator can mend is told in words; what is a fault of ours, whole.
  console.error(error instanceof PlainWords ? error.message : error);
  process.exit(1);
});

// A server whose launcher died would hold the links and the port.
if (process.env.MISTPEAK_ENDS_WITH_INPUT)
  process.stdin.resume().once('end', () => process.kill(process.pid, 'SIGTERM'));
