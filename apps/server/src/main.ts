import 'reflect-metadata';
import type { Server } from 'node:net';
import { createApplication } from './application.js';
import { readConfiguration } from './configuration.js';

const configuration = readConfiguration(process.env);
const app = await createApplication(configuration);
app.enableShutdownHooks();
await app.listen(configuration.port, '127.0.0.1');
const { port } = (app.getHttpServer() as Server).address() as { port: number };
console.log(`ready ${port}`);

// A server whose launcher died would hold the links and the port.
if (process.env.MISTPEAK_ENDS_WITH_INPUT)
  process.stdin.resume().once('end', () => process.kill(process.pid, 'SIGTERM'));
