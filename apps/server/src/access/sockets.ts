import type { IncomingMessage, Server } from 'node:http';
import type { INestApplicationContext } from '@nestjs/common';
import { WsAdapter } from '@nestjs/platform-ws';
import type { Role } from '@mistpeak/contract/access';
import type { WebSocket } from 'ws';
import { AccessService } from './access.service.js';
import { Logins } from './logins.js';
import { isOwnPage } from './own-page.js';

/** A private code (RFC 6455, section 7.4.2): the login that this socket came with is over. */
export const LOGIN_OVER = 4401;

/** role: who may come in by this path at all; without it everybody who is somebody. maxPayload: octets of one message. */
export interface SocketOptions {
  readonly path: string;
  readonly maxPayload: number;
  readonly role?: Role;
}

type Verdict = (isAllowed: boolean, code?: number, reason?: string) => void;

/**
 * WebSockets behind the same door: who may not come in is refused in the upgrade, so that nothing of a message is read; and
 * every socket ends with the login that it came with.
 */
export class GuardedSockets extends WsAdapter {
  private readonly access: AccessService;

  constructor(private readonly app: INestApplicationContext & { getHttpServer(): Server }) {
    super(app);
    this.access = app.get(AccessService);
  }

  override create(port: number, options: SocketOptions & Record<string, unknown>): unknown {
    const verifyClient = ({ req }: { req: IncomingMessage }, done: Verdict): void => {
      if (!isOwnPage(req)) return done(false, 403, 'Forbidden');
      const role = this.access.roleOf(req);
      if (role === null) return done(false, 401, 'Unauthorized');
      if (options.role && role !== options.role) return done(false, 403, 'Forbidden');
      done(true);
    };
    const server = super.create(port, { ...options, verifyClient } as never) as {
      on(event: 'connection', handler: (socket: WebSocket, request: IncomingMessage) => void): void;
    };
    server.on('connection', (socket, request) => this.endWithLogin(socket, request));
    return server;
  }

  private endWithLogin(socket: WebSocket, request: IncomingMessage): void {
    const logins = this.app.get(Logins);
    const login = logins.of(request);
    if (!login) return;
    const stop = logins.onEnd((id) => {
      if (id !== login.id) return;
      socket.close(LOGIN_OVER);
      // Who does not answer the closing is cut off.
      setTimeout(() => socket.terminate(), 1000).unref();
    });
    socket.on('close', stop);
  }
}
