import { createServer, type Server, type Socket } from 'node:net';
import { until } from './server-up.js';

/** A far end made of plain octets: it knows no codec of ours. */
export class KissPeer {
  readonly sockets: Socket[] = [];
  private received = '';
  private constructor(private readonly server: Server) {}

  static async listen(): Promise<KissPeer> {
    const peer: KissPeer = new KissPeer(createServer((socket) => peer.serve(socket)));
    await new Promise<void>((resolve) => peer.server.listen(0, '127.0.0.1', resolve));
    return peer;
  }

  get port(): number {
    return (this.server.address() as { port: number }).port;
  }

  /** Octets in hex to every client. */
  send(hex: string): void {
    for (const socket of this.sockets) socket.write(Buffer.from(hex.replace(/\s/g, ''), 'hex'));
  }

  /** What came, in hex, once it contains this. */
  async got(hex: string): Promise<string> {
    return until(`${hex} on the wire`, () => (this.received.includes(hex) ? this.received : undefined));
  }

  hasGot(hex: string): boolean {
    return this.received.includes(hex);
  }

  /** Everything that came, in hex. */
  everything(): string {
    return this.received;
  }

  connected(): Promise<Socket> {
    return until('a connection', () => this.sockets.at(-1));
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await new Promise((resolve) => this.server.close(resolve));
  }

  private serve(socket: Socket): void {
    this.sockets.push(socket);
    socket.on('data', (octets: Buffer) => (this.received += octets.toString('hex')));
    socket.on('error', () => socket.destroy());
    socket.on('close', () => this.sockets.splice(this.sockets.indexOf(socket), 1));
  }
}

/** The signature frame of a stand-in, literally. */
export const STAND_IN_HEX = `c006${Buffer.from('Mistpeak stand-in 1').toString('hex')}c0`;

/** `N0CALL-7>APZMPK,WIDE1-1,WIDE2-1:>hi` in a KISS data frame. */
export const STATUS_HEX = 'c00082a0b49aa096e09c60868298986eae92888a624062ae92888a64406303f03e6869c0';
