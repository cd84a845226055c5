import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';

/** A server on loopback alone; its sockets end with it, and one that fails is only gone. */
export class LoopbackServer {
  private readonly server: Server;
  private readonly sockets = new Set<Socket>();

  constructor(serve: (socket: Socket) => void) {
    this.server = createServer((socket) => {
      this.sockets.add(socket);
      socket.on('error', () => undefined);
      socket.on('close', () => this.sockets.delete(socket));
      serve(socket);
    });
  }

  /** Port 0 takes a free one. Returns the port. */
  listen(port: number): Promise<number> {
    return new Promise((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(port, '127.0.0.1', () => resolve((this.server.address() as AddressInfo).port));
    });
  }

  close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    return new Promise((resolve) => this.server.close(() => resolve()));
  }
}
