import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { toLatin1 } from '@mistpeak/core/bits/octets';
import { fill, read } from '@mistpeak/core/command-words/templates';
import { NEUTRAL_WORDS } from '@mistpeak/core/command-words/modem-program';
import type { Clock } from '@mistpeak/link/clock';
import { ConnectedEnd, type Line } from '../connected/connected-end.js';
import type { RadioChannel } from '../radio-channel/radio-channel.js';

const BANNER = '# Mistpeak stand-in 1, a modem program';

/** Another program's sound modem: a command port with the neutral words, and a data port; its radio is on the island's channel. */
export class ModemProgram {
  private readonly command: Server;
  private readonly data: Server;
  private commander: Socket | undefined;
  private carrier: Socket | undefined;
  private own = 'QH4MPK';
  private end: ConnectedEnd | undefined;
  private line: Line | undefined;
  private waiting = 0;

  constructor(
    private readonly channel: RadioChannel,
    private readonly clock: Clock,
    /** Where its set stands. */
    private readonly place: (call: string) => void,
  ) {
    this.command = createServer((socket) => this.welcome(socket));
    this.data = createServer((socket) => {
      this.carrier = socket;
      socket.on('error', () => undefined);
      socket.on('data', (octets: Buffer) => {
        this.waiting += octets.length;
        this.tell(fill(NEUTRAL_WORDS.buffer, { octets: this.waiting }));
        this.line?.ask(toLatin1(octets));
      });
    });
  }

  async listen(commandPort: number, dataPort: number): Promise<{ command: number; data: number }> {
    return { command: await listen(this.command, commandPort), data: await listen(this.data, dataPort) };
  }

  async close(): Promise<void> {
    this.end?.end();
    this.commander?.destroy();
    this.carrier?.destroy();
    for (const server of [this.command, this.data]) await new Promise((resolve) => server.close(resolve));
  }

  private welcome(socket: Socket): void {
    this.commander = socket;
    let rest = '';
    socket.on('error', () => undefined);
    // Who commands it is gone: what stands is let go.
    socket.on('close', () => this.line?.hangUp());
    socket.on('data', (octets: Buffer) => {
      const lines = (rest + octets.toString('latin1')).split('\r');
      rest = lines.pop() as string;
      for (const text of lines) this.obey(text.trim());
    });
    this.tell(BANNER);
    this.tell(NEUTRAL_WORDS.clear);
  }

  private tell(text: string): void {
    this.commander?.write(`${text}\r`);
  }

  private obey(text: string): void {
    const { setOwn, askOwn, ownIs, connect, disconnect, abort } = NEUTRAL_WORDS;
    if (text === askOwn) return this.tell(fill(ownIs, { call: this.own }));
    const own = read(setOwn, text);
    if (own) {
      this.own = own.call ?? this.own;
      return;
    }
    const call = read(connect, text);
    if (call) return this.connect(call.to ?? '', Number(call.tries));
    if (text === disconnect) return this.line?.hangUp();
    if (text === abort) {
      this.end?.end();
      return this.over();
    }
    this.tell(`NO such word: ${text}`);
  }

  private connect(to: string, tries: number): void {
    this.end?.end();
    this.place(this.own);
    const end = new ConnectedEnd(this.channel, this.clock, this.own, undefined);
    this.end = end;
    end.connect(
      to,
      [],
      (line) => ({
        connected: () => {
          this.line = line;
          this.tell(fill(NEUTRAL_WORDS.connected, { to }));
        },
        data: (octets) => void this.carrier?.write(octets),
        confirmed: (octets) => {
          this.waiting = Math.max(0, this.waiting - octets);
          this.tell(fill(NEUTRAL_WORDS.buffer, { octets: this.waiting }));
        },
        line: () => undefined,
        ended: () => this.over(),
      }),
      tries,
    );
  }

  private over(): void {
    this.line = undefined;
    // Its last good-bye still goes out; then nobody answers there for this call.
    const { end } = this;
    this.clock.after(0, () => end?.end());
    this.end = undefined;
    this.waiting = 0;
    this.tell(NEUTRAL_WORDS.disconnected);
  }
}

const listen = (server: Server, port: number): Promise<number> =>
  new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve((server.address() as AddressInfo).port));
  });
