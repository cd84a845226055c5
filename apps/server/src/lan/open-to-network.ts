import { createServer, type Server } from 'node:https';
import type { IncomingMessage, Server as HttpServer } from 'node:http';
import type { Duplex } from 'node:stream';
import type { INestApplication } from '@nestjs/common';
import { limitSlowness } from '../slowness.js';
import type { Credentials } from './authority.js';
import { LanService } from './lan.service.js';

type Listener = (request: IncomingMessage, response: unknown) => void;

/** Who does not come to terms within this is no browser. */
const HANDSHAKE_LIMIT_MS = 10_000;

/**
 * HTTPS on every address of this machine, for the same application: browsers give serial ports, Bluetooth and the
 * microphone to pages only over HTTPS. forgetAuthority: what is done when the operator closes the house. Resolves to the
 * server; closing it is the caller's.
 */
export async function openToNetwork(
  app: INestApplication,
  port: number,
  credentials: Credentials,
  forgetAuthority: () => void,
): Promise<Server> {
  const { key, cert } = credentials;
  const server = createServer(
    { key, cert, handshakeTimeout: HANDSHAKE_LIMIT_MS },
    app.getHttpAdapter().getInstance() as Listener,
  );
  limitSlowness(server);
  // The event stream and the wires hang on the one server that Nest knows.
  const inner = app.getHttpServer() as HttpServer;
  server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) =>
    inner.emit('upgrade', request, socket, head),
  );
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '0.0.0.0', () => resolve());
  });
  const shut = (): void => {
    server.close();
    server.closeAllConnections();
    forgetAuthority();
  };
  app.get(LanService).open({ port: (server.address() as { port: number }).port, credentials, shut });
  return server;
}
