import type { IncomingMessage } from 'node:http';
import { WebSocketGateway, type OnGatewayConnection } from '@nestjs/websockets';
import type { WebSocket } from 'ws';
import { AccessService } from '../access/access.service.js';
import { isLoopback, isOwnPage } from '../access/own-page.js';
import { LiveService } from './live.service.js';

/** A private code, and "try again later" (RFC 6455, section 7.4). */
const LOGIN_NEEDED = 4401;
const TRY_AGAIN = 1013;
/** A page that reads this slowly is dropped: it comes back and catches up. */
const MOST_BUFFERED = 8 * 1024 * 1024;

@WebSocketGateway({
  path: '/api/v1/live',
  verifyClient: ({ req }: { req: IncomingMessage }) => isOwnPage(req),
})
export class LiveGateway implements OnGatewayConnection {
  constructor(
    private readonly live: LiveService,
    private readonly access: AccessService,
  ) {}

  async handleConnection(socket: WebSocket, request: IncomingMessage): Promise<void> {
    socket.on('error', () => socket.terminate());
    const role = await this.access.roleOf(request).catch(() => undefined);
    if (role === null) return socket.close(LOGIN_NEEDED);
    // The database is away: on this machine the operator is known without it.
    if (role === undefined && !isLoopback(request)) return socket.close(TRY_AGAIN);
    if (socket.readyState === socket.OPEN) this.follow(socket, request);
  }

  /** What a page sends here is not read: commands go by REST, where every one is checked. */
  private follow(socket: WebSocket, request: IncomingMessage): void {
    const query = new URL(request.url ?? '/', 'http://localhost').searchParams;
    const send = (event: unknown): void => {
      if (socket.bufferedAmount > MOST_BUFFERED) socket.terminate();
      else socket.send(JSON.stringify(event));
    };
    for (const event of this.live.catchUp(query.get('epoch'), Number(query.get('since') ?? 0))) send(event);
    const stop = this.live.listen(send);
    socket.on('close', stop);
  }
}
