import { createServer, type Server, type Socket } from 'node:net';

/** A channel for several Mistpeaks: what one hands to its TNC, all others hear. */
export class Channel {
  private readonly sockets = new Set<Socket>();
  private constructor(
    private readonly server: Server,
    readonly port: number,
  ) {}

  static async listen(): Promise<Channel> {
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const channel = new Channel(server, (server.address() as { port: number }).port);
    server.on('connection', (socket) => {
      channel.sockets.add(socket);
      socket.on('error', () => undefined);
      socket.on('close', () => channel.sockets.delete(socket));
      socket.on('data', (octets: Buffer) => {
        for (const other of channel.sockets) if (other !== socket) other.write(octets);
      });
    });
    return channel;
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await new Promise((resolve) => this.server.close(resolve));
  }
}
