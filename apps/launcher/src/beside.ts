import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { stopChild } from './child.js';
import { HOME } from './home.js';

/** It has a database of its own to stop. */
const STOP_LIMIT_MS = 20_000;

/** A practice world beside the operator's own station: another launcher with the demo, in a folder of its own below ours. */
export class Beside {
  private child: ChildProcess | undefined;

  constructor(
    private readonly data: string,
    readonly port: number,
    private readonly script = join(HOME, 'apps/launcher/dist/main.js'),
  ) {}

  /** Starts it unless it runs. It ends with us, however we end. */
  begin(): void {
    if (this.child) return;
    const options = ['demo', '--data', join(this.data, 'practice'), '--port', String(this.port)];
    const child = spawn(process.execPath, [this.script, ...options], {
      env: { ...process.env, MISTPEAK_ENDS_WITH_INPUT: '1' },
      stdio: ['pipe', 'ignore', 'inherit'],
      detached: true,
    });
    this.child = child;
    child.once('exit', () => (this.child = undefined));
    console.log(`A practice world is started beside: http://127.0.0.1:${this.port}`);
  }

  async stop(): Promise<void> {
    if (this.child) await stopChild(this.child, STOP_LIMIT_MS);
  }
}
