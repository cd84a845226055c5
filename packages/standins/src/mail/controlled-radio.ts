import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { NEUTRAL_RADIO_WORDS } from '@mistpeak/core/command-words/radio-control';
import { fill, read } from '@mistpeak/core/command-words/templates';

/** A radio with a control port and two bands: what is set is the one that was chosen by hand. */
export class ControlledRadio {
  private readonly server: Server;
  private readonly sockets = new Set<Socket>();
  private readonly hz = { A: 144_800_000, B: 430_100_000 };

  constructor(private band: 'A' | 'B' = 'A') {
    this.server = createServer((socket) => {
      this.sockets.add(socket);
      let rest = '';
      socket.on('error', () => undefined);
      socket.on('data', (octets: Buffer) => {
        const lines = (rest + octets.toString('latin1')).split('\r');
        rest = lines.pop() as string;
        for (const text of lines) this.obey(socket, text);
      });
    });
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

  /** Somebody chooses the band by hand. */
  choose(band: 'A' | 'B'): void {
    this.band = band;
  }

  frequencyHz(): number {
    return this.hz.A;
  }

  /** Commands go to the band in use; the answer is of the band that the data go by. */
  private obey(socket: Socket, text: string): void {
    const set = read(NEUTRAL_RADIO_WORDS.set, text);
    if (set) this.hz[this.band] = Number(set.hz);
    else if (text.trim() === NEUTRAL_RADIO_WORDS.ask)
      socket.write(`${fill(NEUTRAL_RADIO_WORDS.frequencyIs, { hz: this.hz.A, band: 'A' })}\r`);
  }
}
