import type { IncomingMessage } from 'node:http';
import { Inject } from '@nestjs/common';
import { WebSocketGateway, type OnGatewayConnection } from '@nestjs/websockets';
import { PULSE, PULSE_EVERY_MS } from '@mistpeak/contract/live';
import { every, type Clock } from '@mistpeak/link/clock';
import type { WebSocket } from 'ws';
import { CLOCK } from '../adapters/system-clock.js';
import { LiveService } from './live.service.js';

/** A page that reads this slowly is dropped: it comes back and catches up. */
const MOST_BUFFERED = 8 * 1024 * 1024;
/** It is read by nobody; more than this is no page of ours. */
const LARGEST_MESSAGE = 1024;

/** The event stream, for everybody who is let in. */
@WebSocketGateway({ path: '/api/v1/live', maxPayload: LARGEST_MESSAGE })
export class LiveGateway implements OnGatewayConnection {
  constructor(
    private readonly live: LiveService,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {}

  /** What a page sends here is not read: commands go by REST, where every one is checked. */
  handleConnection(socket: WebSocket, request: IncomingMessage): void {
    socket.on('error', () => socket.terminate());
    const query = new URL(request.url ?? '/', 'http://localhost').searchParams;
    const send = (event: unknown): void => {
      if (socket.bufferedAmount > MOST_BUFFERED) socket.terminate();
      else socket.send(JSON.stringify(event));
    };
    for (const event of this.live.catchUp(query.get('epoch'), Number(query.get('since') ?? 0))) send(event);
    const stop = this.live.listen(send);
    const stopPulse = this.pulse(socket);
    socket.on('close', () => {
      stop();
      stopPulse();
    });
  }

  /** A page whose server hangs must notice: its socket would stay open for many minutes. */
  private pulse(socket: WebSocket): () => void {
    return every(this.clock, PULSE_EVERY_MS, () => socket.send(PULSE));
  }
}
