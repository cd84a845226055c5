import { spawn, type ChildProcess } from 'node:child_process';

/** Two pseudo-terminals joined by socat: what is written to one is read from the other, as a null-modem cable. */
export class PtyPair {
  received = '';
  private constructor(
    private readonly socat: ChildProcess,
    /** The end that the product opens. */
    readonly device: string,
  ) {}

  static open(): Promise<PtyPair> {
    // The near end is socat's own standard input and output, so that no second serial driver is needed here.
    const socat = spawn('socat', ['-d', '-d', 'PTY,raw,echo=0', 'STDIO'], {
      stdio: ['pipe', 'pipe', 'pipe'],
    });
    return new Promise((resolve, reject) => {
      let words = '';
      socat.stderr.on('data', (text: Buffer) => {
        words += text.toString();
        const device = /PTY is (\/dev\/\S+)/.exec(words)?.[1];
        if (device === undefined || !words.includes('starting data transfer')) return;
        const pair = new PtyPair(socat, device);
        socat.stdout.on('data', (octets: Buffer) => (pair.received += octets.toString('hex')));
        socat.stderr.removeAllListeners('data');
        resolve(pair);
      });
      socat.once('exit', () => reject(new Error(`socat ended: ${words}`)));
    });
  }

  async play(hex: string): Promise<void> {
    const octets = Buffer.from(hex, 'hex');
    for (let at = 0; at < octets.length; at += 7) {
      this.socat.stdin?.write(octets.subarray(at, at + 7));
      await new Promise((resolve) => setImmediate(resolve));
    }
  }

  /** The plug is pulled. */
  unplug(): void {
    this.socat.kill('SIGKILL');
  }
}
