import type { Socket } from 'node:net';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parseOrder, type PracticeOrder } from '@mistpeak/core/drills/practice';
import { LoopbackServer } from '../sockets/loopback-server.js';

const LONGEST_LINE = 4000;

/** Where the practice world is told what is the matter: a line an order, answered by `done` or by `no` and why. Loopback only. */
export class PracticePort {
  private readonly server: LoopbackServer;

  constructor(private readonly obey: (order: PracticeOrder) => Promise<void>) {
    this.server = new LoopbackServer((socket) => this.serve(socket));
  }

  listen(port: number): Promise<number> {
    return this.server.listen(port);
  }

  close(): Promise<void> {
    return this.server.close();
  }

  private serve(socket: Socket): void {
    let rest = '';
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
