import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { newAddress } from '../apps/launcher/src/entrance.js';
import { HOME } from '../apps/launcher/src/home.js';
import { fillFrom, ISLAND_MINUTE, SET_UP_AT } from './template.js';

/** A folder that the database user may enter, as a checkout is. */
function makeFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'mistpeak-e2e-'));
  chmodSync(folder, 0o755);
  return folder;
}

/** Mistpeak as a user starts it, on a data folder of its own. */
export class Running {
  /** By data folder: what is started again stands where it stood. */
  private static readonly ports = new Map<string, number>();

  private constructor(
    /** What it printed: in the demo the page itself. */
    private readonly printed: string,
    readonly data: string,
    private readonly launcher: ChildProcess,
  ) {}

  /** On an empty folder: as after a first start, or of the demo at its own time; else a first start. */
  static async startFresh(verb: 'demo' | 'start', options: readonly string[] = []): Promise<Running> {
    const data = makeFolder();
    const isDemoLater = verb === 'demo' && options.some((one) => one.startsWith(ISLAND_MINUTE));
    if (verb === 'start' || isDemoLater)
      await fillFrom(verb, data, async (folder) => {
        const first = await Running.start(verb, folder, isDemoLater ? ['--at', SET_UP_AT] : []);
        await first.stop();
      });
    return Running.start(verb, data, options);
  }

  static async start(
    verb: 'demo' | 'start',
    data = makeFolder(),
    options: readonly string[] = [],
  ): Promise<Running> {
    // Below those that the system gives to outgoing connections (Linux: from 32768 on), which come and go.
    // Two of one worker stand far apart.
    const port = Running.ports.get(data) ?? 20_000 + ((process.pid + 6000 * Running.ports.size) % 12_000);
    Running.ports.set(data, port);
    const launcher = spawn(
      join(HOME, 'mistpeak'),
      [verb, '--data', data, '--port', String(port), ...options],
      {
        stdio: ['ignore', 'pipe', 'pipe'],
        detached: true,
      },
    );
    let printed = '';
    launcher.stderr.on('data', (text: Buffer) => {
      printed += text.toString();
      process.stderr.write(text);
    });
    const address = await new Promise<string>((resolve, reject) => {
      launcher.stdout.on('data', (text: Buffer) => {
        printed += text.toString();
        const at = /Mistpeak is at (\S+)/.exec(printed);
        if (at) resolve(at[1] as string);
      });
      launcher.once('exit', () => reject(new Error(`mistpeak ended:\n${printed}`)));
    });
    return new Running(address, data, launcher);
  }

  /** The page, for who is let in already. */
  get address(): string {
    return new URL(this.printed).origin;
  }

  /** An address that lets one browser in, once; in the demo everybody on this machine is. */
  newAddress(): Promise<string> {
    return this.printed.includes('/enter') ? newAddress(this.data) : Promise.resolve(this.address);
  }

  get hasEnded(): boolean {
    return this.launcher.exitCode !== null || this.launcher.signalCode !== null;
  }

  /** Ctrl-C. */
  async stop(): Promise<void> {
    // A test that failed after it was stopped ends here a second time.
    if (this.hasEnded) return;
    const ended = new Promise((resolve) => this.launcher.once('exit', resolve));
    this.launcher.kill('SIGINT');
    await ended;
  }

  /** The server itself, as a machine that stands still and goes on. */
  signalServer(signal: 'SIGSTOP' | 'SIGCONT'): void {
    const children = execFileSync('ps', ['--ppid', String(this.launcher.pid), '-o', 'pid=,args='], {
      encoding: 'utf8',
    });
    const server = children.split('\n').find((line) => line.includes('server/dist/bundle'));
    process.kill(Number.parseInt(server?.trim() ?? '', 10), signal);
  }

  async stopAndForget(): Promise<void> {
    await this.stop();
    rmSync(this.data, { recursive: true, force: true });
  }
}
