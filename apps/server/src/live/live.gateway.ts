import type { IncomingMessage } from 'node:http';
import { WebSocketGateway, type OnGatewayConnection } from '@nestjs/websockets';
import type { WebSocket } from 'ws';
import { isOwnPage } from '../access/own-page.js';
import { LiveService } from './live.service.js';

/** A page that reads this slowly is dropped: it comes back and catches up. */
const MOST_BUFFERED = 8 * 1024 * 1024;

@WebSocketGateway({
  path: '/api/v1/live',
  verifyClient: ({ req }: { req: IncomingMessage }) => isOwnPage(req),
})
export class LiveGateway implements OnGatewayConnection {
  constructor(private readonly live: LiveService) {}

  handleConnection(socket: WebSocket, request: IncomingMessage): void {
    const query = new URL(request.url ?? '/', 'http://localhost').searchParams;
    const send = (event: unknown): void => {
      if (socket.bufferedAmount > MOST_BUFFERED) socket.terminate();
      else socket.send(JSON.stringify(event));
    };
    for (const event of this.live.catchUp(query.get('epoch'), Number(query.get('since') ?? 0))) send(event);
    const stop = this.live.listen(send);
    socket.on('close', stop);
    socket.on('error', () => socket.terminate());
  }
}
