import type { Socket } from 'node:net';
import type { MailService } from './mail-service.js';
import { LoopbackServer } from '../sockets/loopback-server.js';

const BANNER = '# Hollin mail service, Mistpeak stand-in 1';
const LONGEST_LOGIN = 100;

/** The mail service by TCP: asks for a call and a word, then speaks as its gateways do. */
export class MailServer {
  private readonly server: LoopbackServer;

  constructor(private readonly service: MailService) {
    this.server = new LoopbackServer((socket) => this.welcome(socket));
  }

  /** Returns the port. */
  listen(port: number): Promise<number> {
    return this.server.listen(port);
  }

  close(): Promise<void> {
    return this.server.close();
  }

  private welcome(socket: Socket): void {
    const answers: string[] = [];
    let gathered = '';
    let session: ReturnType<MailService['session']> | undefined;
    socket.setNoDelay(true);
    socket.on('close', () => {
      session?.lost();
    });
    socket.on('data', (octets: Buffer) => {
      if (session) return session.hear(new Uint8Array(octets));
      gathered = (gathered + octets.toString('latin1')).slice(-LONGEST_LOGIN);
      const lines = gathered.split('\r');
      gathered = lines.pop() as string;
      answers.push(...lines);
      const [call] = answers;
      if (answers.length === 1) socket.write('Password :');
      if (answers.length < 2 || call === undefined) return;
      session = this.service.session('HOLLIN', call.trim().toUpperCase(), {
        say: (out) => void socket.write(out),
        hangUp: () => void socket.end(),
      });
    });
    socket.write(`${BANNER}\r\nCallsign :`);
  }
}
