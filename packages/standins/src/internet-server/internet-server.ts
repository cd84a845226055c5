import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { passcode } from '@mistpeak/core/callsign/passcode';
import { callWithoutSsid } from '@mistpeak/core/callsign/callsign';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parseInternetLine, type InternetPacket } from '@mistpeak/core/internet/line';
import { LineCutter } from '@mistpeak/core/internet/lines';
import type { Clock } from '@mistpeak/link/clock';
import type { Hub, Port } from './hub.js';
import { filterOf } from './filtering.js';

export const SERVER_NAME = 'HOLLIN1';
const BANNER = `# ${SERVER_NAME} Mistpeak stand-in 1`;
const COMMENT_EVERY_MS = 20_000;
const LINE_END = '\r\n';
/** Who reads so slowly is let go. */
const MOST_UNREAD = 1_000_000;

interface Visitor {
  readonly socket: Socket;
  readonly port: Port;
  login: { readonly call: string; readonly isVerified: boolean } | undefined;
  fits: (packet: InternetPacket) => boolean;
  readonly leave: () => void;
}

/** The server of the island's internet side, over real sockets; it says by its banner that it is a stand-in. */
export class InternetServer {
  private readonly server: Server;
  private readonly visitors = new Set<Visitor>();
  private readonly stopComments: () => void;

  constructor(
    private readonly hub: Hub,
    clock: Clock,
  ) {
    this.server = createServer((socket) => this.welcome(socket));
    let cancel = (): void => undefined;
    const comment = (): void => {
      for (const { socket } of this.visitors) socket.write(`# ${SERVER_NAME} lives${LINE_END}`);
      cancel = clock.after(COMMENT_EVERY_MS, comment);
    };
    cancel = clock.after(COMMENT_EVERY_MS, comment);
    this.stopComments = () => cancel();
  }

  /** Returns the port. */
  listen(port: number): Promise<number> {
    return new Promise((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(port, '127.0.0.1', () => resolve((this.server.address() as AddressInfo).port));
    });
  }

  close(): Promise<void> {
    this.stopComments();
    for (const { socket } of this.visitors) socket.destroy();
    return new Promise((resolve) => this.server.close(() => resolve()));
  }

  private welcome(socket: Socket): void {
    const cutter = new LineCutter();
    const port: Port = {
      name: 'visitor',
      hears: (line, packet) => {
        if (!visitor.login || !visitor.fits(packet)) return;
        if (socket.writableLength > MOST_UNREAD) return void socket.destroy();
        socket.write(Buffer.from(line + LINE_END, 'latin1'));
      },
    };
    const visitor: Visitor = { socket, port, login: undefined, fits: () => true, leave: this.hub.join(port) };
    this.visitors.add(visitor);
    socket.on('error', () => socket.destroy());
    socket.on('close', () => {
      visitor.leave();
      this.visitors.delete(visitor);
    });
    socket.on('data', (octets: Buffer) => cutter.push(octets).forEach((line) => this.hear(visitor, line)));
    socket.write(BANNER + LINE_END);
  }

  private hear(visitor: Visitor, line: string): void {
    const say = (text: string): void => void visitor.socket.write(text + LINE_END);
    if (!visitor.login) {
      const login = /^user (\S+) pass (-?\d+)(?: vers \S+ \S+)?(?: filter (.*))?$/i.exec(line);
      if (!login) return say('# log in first: user CALL pass N vers NAME VERSION');
      const [, call, code, filter = ''] = login as unknown as [string, string, string, string?];
      const isVerified = Number(code) === passcode(call);
      visitor.login = { call, isVerified };
      visitor.fits = filterOf(filter, call);
      return say(`# logresp ${call} ${isVerified ? 'verified' : 'unverified'}, server ${SERVER_NAME}`);
    }
    const asked = /^#filter (.*)$/.exec(line);
    if (asked) {
      visitor.fits = filterOf(asked[1] as string, visitor.login.call);
      return say(`# filter ${asked[1]} active`);
    }
    if (!line.startsWith('#') && visitor.login.isVerified) this.pass(visitor, line);
  }

  /** A gate's own construct stays; whatever else a program sends is its own (public description of q constructs). */
  private pass({ port, login }: Visitor, line: string): void {
    const packet = parseInternetLine(line);
    if (isMalformed(packet) || !login) return;
    const construct = packet.path.find(({ call }) => /^q[A-Z][A-Za-z]$/.test(call));
    if (construct) return this.hub.pass(line, port);
    const isOwn = callWithoutSsid(packet.source) === callWithoutSsid(login.call);
    const colon = line.indexOf(':');
    const how = isOwn ? `qAC,${SERVER_NAME}` : `qAS,${login.call}`;
    this.hub.pass(`${line.slice(0, colon)},${how}${line.slice(colon)}`, port);
  }
}
