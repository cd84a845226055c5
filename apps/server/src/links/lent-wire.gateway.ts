import type { IncomingMessage } from 'node:http';
import { Inject } from '@nestjs/common';
import { WebSocketGateway, type OnGatewayConnection } from '@nestjs/websockets';
import type { Clock } from '@mistpeak/link/clock';
import { isUUID } from 'class-validator';
import type { WebSocket } from 'ws';
import { overPage } from '../adapters/page-wire.js';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from './links.service.js';

/** Private codes (RFC 6455, section 7.4.2). */
const REFUSED = 4404;
const TAKEN_OVER = 4409;
/** A page forwards what a TNC sends: frames of some hundred octets, not more than a few KISS frames at once. */
const LARGEST_MESSAGE = 65_536;

/** Where a page brings the octets of its device, for one link. The operator’s pages only. */
@WebSocketGateway({
  path: '/api/v1/wire',
  maxPayload: LARGEST_MESSAGE,
  role: 'operator',
})
export class LentWireGateway implements OnGatewayConnection {
  private readonly lenders = new Map<string, WebSocket>();

  constructor(
    private readonly links: LinksService,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {}

  async handleConnection(socket: WebSocket, request: IncomingMessage): Promise<void> {
    socket.on('error', () => socket.terminate());
    // From now on octets may come: the wire keeps them until the link takes it.
    const wire = overPage(socket, this.clock);
    const query = new URL(request.url ?? '/', 'http://localhost').searchParams;
    const linkId = query.get('link') ?? '';
    if (!isUUID(linkId)) return socket.close(REFUSED);
    try {
      // The page before this one must hear why: it would come back, and the two would take the link in turns.
      this.lenders.get(linkId)?.close(TAKEN_OVER);
      this.lenders.set(linkId, socket);
      socket.on('close', () => this.lenders.get(linkId) === socket && this.lenders.delete(linkId));
      await this.links.lend(linkId, wire, query.has('open'));
    } catch {
      socket.close(REFUSED);
    }
  }
}
