import type { Socket } from 'node:net';
import { NEUTRAL_RADIO_WORDS } from '@mistpeak/core/command-words/radio-control';
import { fill, read } from '@mistpeak/core/command-words/templates';
import { LoopbackServer } from '../sockets/loopback-server.js';

/** A radio with a control port and two bands: what is set is the one that was chosen by hand. */
export class ControlledRadio {
  private readonly server: LoopbackServer;
  private readonly hz = { A: 144_800_000, B: 430_100_000 };

  constructor(private band: 'A' | 'B' = 'A') {
    this.server = new LoopbackServer((socket) => {
      let rest = '';
      socket.on('data', (octets: Buffer) => {
        const lines = (rest + octets.toString('latin1')).split('\r');
        rest = lines.pop() as string;
        for (const text of lines) this.obey(socket, text);
      });
    });
  }

  listen(port: number): Promise<number> {
    return this.server.listen(port);
  }

  close(): Promise<void> {
    return this.server.close();
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
