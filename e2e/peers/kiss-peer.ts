import { createServer, type Server, type Socket } from 'node:net';

/**
 * An independent KISS peer: it plays octets written out here and knows no codec of the product.
 * The header is the worked example `N0CALL-7>APZMPK,WIDE1-1,WIDE2-1` read by an independent analyser.
 */
const HEADER = '82a0b49aa096e09c60868298986eae92888a624062ae92888a64406303f0';

/** A KISS data frame with this status text; FEND and FESC may not occur in it. */
export function statusFrame(text: string): string {
  return `c000${HEADER}${Buffer.from(`>${text}`).toString('hex')}c0`;
}

/** What is good in the stream below, in order. */
export const GOOD = ['first', 'split anywhere', 'after empty frames', 'escaped', 'after garbage', 'last'];

/** Why each of the rest is discarded, with its count. */
export const BAD: Record<string, number> = {
  'outside a frame': 1,
  'unknown command': 2,
  'bad escape': 1,
  'too long': 1,
  'empty frame': 1,
  'not AX.25': 1,
  'not APRS': 1,
};

export const TORTURE: readonly string[] = [
  Buffer.from('cmd: not in KISS mode\r').toString('hex'), // text before any frame
  statusFrame('first'),
  statusFrame('split anywhere'),
  'c0c0c0c0c0c0', // back-to-back FENDs
  statusFrame('after empty frames'),
  'c007a1a2c0', // command 7 is not published
  'c0edc0', // port 14, command 13
  'c00082a0dbaa9aa0c0', // FESC AA is no escape
  // the octets C0 and DB in the info, escaped, behind the words that are looked for
  `c000${HEADER}${Buffer.from('>escaped ').toString('hex')}dbdcdbddc0`,
  `c000${'41'.repeat(5000)}c0`, // five thousand octets
  'c000c0', // a data frame with nothing in it
  'c000deadbeefc0', // KISS, but no AX.25
  `c000${HEADER}${Buffer.from('hello').toString('hex')}c0`, // AX.25, but no APRS
  statusFrame('after garbage'),
  statusFrame('last'),
];

const CONNECTS_MS = 10_000;

/** Plays to whoever connects, one octet a write where asked, and keeps what it is sent. */
export class TcpPeer {
  received = '';
  private readonly sockets: Socket[] = [];
  private constructor(
    private readonly server: Server,
    readonly port: number,
  ) {}

  static listen(): Promise<TcpPeer> {
    return new Promise((resolve) => {
      const server = createServer((socket) => peer.serve(socket));
      let peer: TcpPeer;
      server.listen(0, '127.0.0.1', () => {
        peer = new TcpPeer(server, (server.address() as { port: number }).port);
        resolve(peer);
      });
    });
  }

  /** Each octet as a segment of its own: every boundary of every frame is cut. */
  async play(hex: string, octetsAtOnce = 1): Promise<void> {
    const octets = Buffer.from(hex, 'hex');
    await this.isConnected();
    for (let at = 0; at < octets.length; at += octetsAtOnce) {
      for (const socket of this.sockets) socket.write(octets.subarray(at, at + octetsAtOnce));
      // Letting the event loop turn sends the segment before the next is written.
      await new Promise((resolve) => setImmediate(resolve));
    }
  }

  /** The page may call a link open before this end has taken the connection; what is played to nobody is lost. */
  private async isConnected(): Promise<void> {
    for (let waitedMs = 0; this.sockets.length === 0 && waitedMs < CONNECTS_MS; waitedMs += 20)
      await new Promise((resolve) => setTimeout(resolve, 20));
  }

  hangUp(): void {
    for (const socket of this.sockets) socket.destroy();
  }

  async close(): Promise<void> {
    this.hangUp();
    await new Promise((resolve) => this.server.close(resolve));
  }

  private serve(socket: Socket): void {
    socket.setNoDelay(true);
    this.sockets.push(socket);
    socket.on('data', (octets: Buffer) => (this.received += octets.toString('hex')));
    socket.on('error', () => socket.destroy());
    socket.on('close', () => this.sockets.splice(this.sockets.indexOf(socket), 1));
  }
}

/**
 * A KISS data frame with a position report, written here by the published forms (AX.25 2.2, "Address field"; APRS 1.0.1, "Lat/Long
 * position report format"), not by the product's codec. call: with its SSID; degrees, north and east positive.
 */
export function positionFrame(call: string, latitudeDeg: number, longitudeDeg: number): string {
  const [name = '', ssid = '0'] = call.split('-');
  const address = (text: string, last: number): string =>
    Buffer.from([...text.padEnd(6)].map((sign) => sign.charCodeAt(0) << 1).concat(last)).toString('hex');
  const minutes = (degrees: number, digits: number): string => {
    const whole = Math.floor(Math.abs(degrees));
    return (
      String(whole).padStart(digits, '0') + ((Math.abs(degrees) - whole) * 60).toFixed(2).padStart(5, '0')
    );
  };
  const latitude = `${minutes(latitudeDeg, 2)}${latitudeDeg < 0 ? 'S' : 'N'}`;
  const longitude = `${minutes(longitudeDeg, 3)}${longitudeDeg < 0 ? 'W' : 'E'}`;
  const info = Buffer.from(`!${latitude}/${longitude}>`).toString('hex');
  return `c000${address('APZMPK', 0xe0)}${address(name, 0x61 | (Number(ssid) << 1))}03f0${info}c0`;
}
