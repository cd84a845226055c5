import { createServer, type Server } from 'node:https';
import type { IncomingMessage, Server as HttpServer } from 'node:http';
import type { Duplex } from 'node:stream';
import type { INestApplication } from '@nestjs/common';
import type { LanConfiguration } from '../configuration.js';
import { credentialsFor } from './authority.js';
import { LanService, ownAddresses, ownNames } from './lan.service.js';

type Listener = (request: IncomingMessage, response: unknown) => void;

/**
 * HTTPS on every address of this machine, for the same application: browsers give serial ports, Bluetooth and the
 * microphone to pages only over HTTPS. Resolves to the server; closing it is the caller's.
 */
export async function openToNetwork(
  app: INestApplication,
  { port, folder }: LanConfiguration,
  nowMs: number,
): Promise<Server> {
  const names = [...ownNames(), '127.0.0.1', ...ownAddresses()];
  const credentials = await credentialsFor(names, folder, nowMs);
  const { key, cert } = credentials;
  const server = createServer({ key, cert }, app.getHttpAdapter().getInstance() as Listener);
  // The event stream and the wires hang on the one server that Nest knows.
  const inner = app.getHttpServer() as HttpServer;
  server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) =>
    inner.emit('upgrade', request, socket, head),
  );
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '0.0.0.0', () => resolve());
  });
  app.get(LanService).open((server.address() as { port: number }).port, credentials);
  return server;
}
