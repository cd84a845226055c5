import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parseOrder, type PracticeOrder } from '@mistpeak/core/drills/practice';

const LONGEST_LINE = 4000;

/** Where the practice world is told what is the matter: a line an order, answered by `done` or by `no` and why. Loopback only. */
export class PracticePort {
  private readonly server: Server;
  private readonly sockets = new Set<Socket>();

  constructor(private readonly obey: (order: PracticeOrder) => Promise<void>) {
    this.server = createServer((socket) => this.serve(socket));
  }

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

  private serve(socket: Socket): void {
    this.sockets.add(socket);
    let rest = '';
    socket.on('error', () => undefined);
    socket.on('close', () => this.sockets.delete(socket));
    socket.on('data', (octets: Buffer) => {
      const lines = (rest + octets.toString('utf8')).split('\n');
      rest = lines.pop() as string;
      if (rest.length > LONGEST_LINE) socket.destroy();
      for (const line of lines) void this.answer(socket, line);
    });
  }

  private async answer(socket: Socket, line: string): Promise<void> {
    const order = parseOrder(line);
    if (isMalformed(order)) return void socket.write(`no ${order.malformed}\n`);
    await this.obey(order);
    socket.write('done\n');
  }
}
