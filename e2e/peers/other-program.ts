import { connect, type Socket } from 'node:net';

/** Another program at the shared TNC: octets in hex, no codec of the product. */
export class OtherProgram {
  received = '';
  isClosed = false;

  private constructor(private readonly socket: Socket) {
    socket.on('data', (octets: Buffer) => (this.received += octets.toString('hex')));
    socket.on('error', () => socket.destroy());
    socket.on('close', () => (this.isClosed = true));
  }

  static at(port: number): Promise<OtherProgram> {
    return new Promise((resolve, reject) => {
      const socket = connect(port, '127.0.0.1', () => resolve(new OtherProgram(socket)));
      socket.once('error', reject);
    });
  }

  send(hex: string): void {
    this.socket.write(Buffer.from(hex, 'hex'));
  }

  close(): void {
    this.socket.destroy();
  }
}
