import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';

/** A channel between two servers: what one hands to its TNC, the other hears; its data frames only. */
export class KissBridge {
  private readonly sockets = new Set<Socket>();

  private constructor(
    private readonly server: Server,
    readonly port: number,
  ) {}

  static async listen(): Promise<KissBridge> {
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const bridge = new KissBridge(server, (server.address() as AddressInfo).port);
    server.on('connection', (socket) => bridge.join(socket));
    return bridge;
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await new Promise((resolve) => this.server.close(resolve));
  }

  private join(socket: Socket): void {
    this.sockets.add(socket);
    let gathered = Buffer.alloc(0);
    socket.on('error', () => undefined);
    socket.on('close', () => this.sockets.delete(socket));
    socket.on('data', (octets: Buffer) => {
      gathered = Buffer.concat([gathered, octets]);
      for (let end = gathered.indexOf(0xc0, 1); end > 0; end = gathered.indexOf(0xc0, 1)) {
        const frame = gathered.subarray(0, end + 1);
        gathered = gathered.subarray(end);
        if (frame.length > 3 && frame[1] === 0)
          for (const other of this.sockets) if (other !== socket) other.write(frame);
      }
    });
  }
}
