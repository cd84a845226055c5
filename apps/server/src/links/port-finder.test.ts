import { spawn, type ChildProcess } from 'node:child_process';
import type { PortListeningView } from '@mistpeak/contract/link';
import { STATUS_HEX } from '../testing/kiss-peer.js';
import { MovedClock } from '../testing/moved-clock.js';
import { makeDatabase, ServerUp, until, type Answer, type Page } from '../testing/server-up.js';

/** A pseudo-terminal whose far end is a script. */
class Terminal {
  received = '';
  private constructor(
    private readonly socat: ChildProcess,
    readonly device: string,
  ) {
    socat.stdout?.on('data', (octets: Buffer) => (this.received += octets.toString('hex')));
  }

  static open(): Promise<Terminal> {
    const socat = spawn('socat', ['-d', '-d', 'PTY,raw,echo=0', 'STDIO'], {
      stdio: ['pipe', 'pipe', 'pipe'],
    });
    return new Promise((resolve, reject) => {
      let words = '';
      socat.stderr.on('data', (text: Buffer) => {
        words += text.toString();
        const device = /PTY is (\/dev\/\S+)/.exec(words)?.[1];
        if (device !== undefined && words.includes('starting data transfer'))
          resolve(new Terminal(socat, device));
      });
      socat.once('error', reject);
    });
  }

  say(text: string | Buffer): void {
    this.socat.stdin?.write(text);
  }

  unplug(): void {
    this.socat.kill('SIGKILL');
  }
}

/** Ten times the time, where a machine that is busy elsewhere would end the listening before the plug is noticed. */
class PatientClock extends MovedClock {
  isPatient = false;

  override after(ms: number, call: () => void): () => void {
    return super.after(this.isPatient ? 10 * ms : ms, call);
  }
}

const clock = new PatientClock();
let server: ServerUp;
let page: Page;
beforeAll(async () => {
  server = await ServerUp.on(await makeDatabase(), { clock });
  page = server.follow();
});
afterAll(async () => {
  page.close();
  await server.close();
});

const listen = (path: string): Promise<Answer<PortListeningView>> =>
  server.ask<PortListeningView>('POST', '/links/ports/listening', { path, speed: 9600 });
/** A terminal's name comes again, so only what is told from now on counts. */
function told(path: string, phase: PortListeningView['phase']): Promise<unknown> {
  const from = page.events.length;
  return until(phase, () =>
    page.events
      .slice(from)
      .find(
        (event) => event.kind === 'port-listening' && event.data.path === path && event.data.phase === phase,
      ),
  );
}

describe('the port finder', () => {
  it.each([
    ['KISS', Buffer.from(STATUS_HEX, 'hex')],
    ['position sentences', '$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47\r\n'],
    ['command prompt', 'cmd:'],
    ['silence', ''],
  ])('names %s, tells how far it is, and sends nothing', async (voice, words) => {
    const terminal = await Terminal.open();
    const isListening = told(terminal.device, 'listening');
    const answer = listen(terminal.device);
    await isListening;
    terminal.say(words);
    expect(await answer).toMatchObject({ status: 200, body: { phase: 'heard', heard: { voice } } });
    expect(terminal.received).toBe('');
    terminal.unplug();
  });

  it('says why a port could not be opened, or was lost', async () => {
    expect((await listen('/dev/ttyNOBODY7')).body).toMatchObject({
      phase: 'failed',
      failure: 'no-such-device',
    });
    const terminal = await Terminal.open();
    clock.isPatient = true;
    const isListening = told(terminal.device, 'listening');
    const answer = listen(terminal.device);
    await isListening;
    terminal.unplug();
    expect((await answer).body).toMatchObject({ phase: 'failed', failure: 'unplugged' });
    clock.isPatient = false;
    expect(await listen('../etc/passwd')).toMatchObject({ status: 400 });
  });

  it('lets the port go when the page leaves', async () => {
    const terminal = await Terminal.open();
    const leaving = new AbortController();
    const isListening = told(terminal.device, 'listening');
    const gone = fetch(`http://127.0.0.1:${server.port}/api/v1/links/ports/listening`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ path: terminal.device, speed: 9600 }),
      signal: leaving.signal,
    });
    await isListening;
    const isLetGo = told(terminal.device, 'heard');
    leaving.abort();
    await expect(gone).rejects.toThrow();
    await isLetGo;
    // Free for the next at once: nobody waits for the rest of the time.
    const isAgain = told(terminal.device, 'listening');
    const answer = listen(terminal.device);
    await isAgain;
    terminal.say('cmd:');
    expect((await answer).body).toMatchObject({ phase: 'heard', heard: { voice: 'command prompt' } });
    terminal.unplug();
  });
});
