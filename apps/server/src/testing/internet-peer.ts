import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { until } from './server-up.js';

/** A server of the internet service made of plain octets: it knows no codec of ours, and says only what the test lets it say. */
export class InternetPeer {
  readonly sockets: Socket[] = [];
  private received = '';
  /** Said to whoever connects. */
  banner: string | undefined = '# a server of the test\r\n';

  private constructor(private readonly server: Server) {}

  static async listen(): Promise<InternetPeer> {
    const peer: InternetPeer = new InternetPeer(createServer((socket) => peer.serve(socket)));
    await new Promise<void>((resolve) => peer.server.listen(0, '127.0.0.1', resolve));
    return peer;
  }

  get port(): number {
    return (this.server.address() as AddressInfo).port;
  }

  say(octets: string | Buffer): void {
    this.sockets.at(-1)?.write(typeof octets === 'string' ? Buffer.from(octets, 'latin1') : octets);
  }

  /** What came, once it contains this. */
  got(text: string): Promise<string> {
    return until(`${text} at the server`, () => (this.received.includes(text) ? this.received : undefined));
  }

  /** What came since, which is forgotten then. */
  take(): string {
    const text = this.received;
    this.received = '';
    return text;
  }

  hangUp(): void {
    for (const socket of this.sockets.splice(0)) socket.destroy();
  }

  async close(): Promise<void> {
    this.hangUp();
    await new Promise((resolve) => this.server.close(resolve));
  }

  private serve(socket: Socket): void {
    this.sockets.push(socket);
    socket.on('data', (octets: Buffer) => (this.received += octets.toString('latin1')));
    socket.on('error', () => socket.destroy());
    if (this.banner !== undefined) socket.write(this.banner);
  }
}
