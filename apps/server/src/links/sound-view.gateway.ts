import type { IncomingMessage } from 'node:http';
import { WebSocketGateway, type OnGatewayConnection } from '@nestjs/websockets';
import type { SoundView } from '@mistpeak/contract/sound-view';
import type { WebSocket } from 'ws';
import { LinksService } from './links.service.js';

/** A page that does not keep up is left out of some reports; nothing waits for it. */
const MOST_WAITING_OCTETS = 200_000;

/** What a sound card of this machine hears, for a page that looks: levels, spectrum, packets, many times a second. */
@WebSocketGateway({ path: '/api/v1/sound', maxPayload: 1024 })
export class SoundViewGateway implements OnGatewayConnection {
  constructor(private readonly links: LinksService) {}

  handleConnection(socket: WebSocket, request: IncomingMessage): void {
    socket.on('error', () => socket.terminate());
    const linkId = new URL(request.url ?? '/', 'http://localhost').searchParams.get('link') ?? '';
    const stop = this.links.sounds.listen(linkId, (report, atMs) => {
      if (socket.bufferedAmount > MOST_WAITING_OCTETS) return;
      const { stretches, packets, hum } = report.news;
      const view: SoundView = {
        ...report,
        atMs,
        news: {
          hum,
          stretches: stretches.map((one) => ({ ...one, spectrum: inBase64(one.spectrum) })),
          packets: packets.map((one) => ({ ...one, raw: inBase64(one.raw) })),
        },
      };
      socket.send(JSON.stringify(view));
    });
    socket.on('close', stop);
  }
}

const inBase64 = (octets: Uint8Array): string => Buffer.from(octets).toString('base64');
