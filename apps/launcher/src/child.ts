import { spawn, type ChildProcess } from 'node:child_process';
import { createInterface } from 'node:readline';

/** Who does not end in that time is ended. */
const STOP_LIMIT_MS = 10_000;

/** What a frame leaves behind is soon of no use: with more room for the young a busy server collects them more cheaply (MB). */
const FLAGS = ['--enable-source-maps', '--max-semi-space-size=32'];

/** A process of ours. It prints `ready PORT` when it can be used, and ends when its standard input does. */
export interface Child {
  readonly port: number;
  readonly process: ChildProcess;
  readonly stop: () => Promise<void>;
}

/** What a child may ask of the launcher, as a line of its output. */
export type Wishes = Readonly<Record<string, () => void>>;

/** Starts a script in a process group of its own, so that Ctrl-C reaches only the launcher, which stops all in order. */
export function startChild(
  script: string,
  options: readonly string[],
  env: NodeJS.ProcessEnv,
  wishes: Wishes = {},
): Promise<Child> {
  const child = spawn(process.execPath, [...FLAGS, script, ...options], {
    env: { ...process.env, ...env, MISTPEAK_ENDS_WITH_INPUT: '1' },
    stdio: ['pipe', 'pipe', 'inherit'],
    detached: true,
  });
  const stop = (): Promise<void> => stopChild(child);
  return new Promise((resolve, reject) => {
    child.once('exit', (code) => reject(new Error(`${script} ended with ${code} before it was ready.`)));
    createInterface({ input: child.stdout }).on('line', (line) => {
      const ready = /^ready (\d+)$/.exec(line);
      const wish = Object.hasOwn(wishes, line) ? wishes[line] : undefined;
      if (ready) resolve({ port: Number(ready[1]), process: child, stop });
      else if (wish) wish();
      else console.log(line);
    });
  });
}

/** Tells it to end, and waits until it has. */
export function stopChild(child: ChildProcess, limitMs = STOP_LIMIT_MS): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    const last = setTimeout(() => child.kill('SIGKILL'), limitMs);
    child.once('exit', () => {
      clearTimeout(last);
      resolve();
    });
    child.kill('SIGTERM');
  });
}
