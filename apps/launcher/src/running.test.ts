import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isRunningProcess, processMark } from './process-mark.js';

const COMMAND = join(__dirname, '../../../mistpeak');
/** Below those that the system gives to outgoing connections. */
const PORT = 10_000 + (process.pid % 10_000);

let data: string;
let launcher: ChildProcess;
let printed = '';

beforeAll(async () => {
  data = mkdtempSync(join(tmpdir(), 'mistpeak-launcher-'));
  chmodSync(data, 0o755);
  await start();
});
afterAll(async () => {
  launcher.kill('SIGINT');
  if (launcher.exitCode === null) await new Promise((resolve) => launcher.once('exit', resolve));
  rmSync(data, { recursive: true, force: true });
});

async function until(what: string, is: () => boolean): Promise<void> {
  for (let tries = 0; tries < 1200; tries++) {
    if (is()) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`${what} did not come:\n${printed}`);
}

async function start(): Promise<void> {
  printed = '';
  launcher = spawn(COMMAND, ['start', '--data', data, '--port', String(PORT)], { detached: true });
  for (const stream of [launcher.stdout, launcher.stderr])
    stream?.on('data', (text: Buffer) => (printed += text.toString()));
  await until('the address', () => /Mistpeak is at/.test(printed));
}

const launcherPid = (): number => Number.parseInt(readFileSync(join(data, 'launcher.pid'), 'utf8'), 10);
const postmaster = (): number =>
  Number(readFileSync(join(data, 'postgres/cluster/postmaster.pid'), 'utf8').split('\n')[0]);
const status = async (): Promise<number> =>
  (await fetch(`http://127.0.0.1:${PORT}/api/v1/access`).catch(() => ({ status: 0 }))).status;
const serverPid = (): number =>
  Number(spawnSync('pgrep', ['-P', String(launcherPid()), '-f', 'apps/server'], { encoding: 'utf8' }).stdout);

describe('what the launcher looks after', () => {
  it('its way in is readable by nobody else', () => {
    const { mode } = statSync(join(data, 'way-in.json'));
    expect(mode & 0o077).toBe(0);
  });

  it('starts the database again when it dies, and the server', async () => {
    const [database, server] = [postmaster(), serverPid()];
    process.kill(database, 'SIGKILL');
    await until('the database', () => /PostgreSQL is back/.test(printed));
    expect(isRunningProcess(postmaster())).toBe(true);
    // Nobody waits any more to end what had that number.
    expect(spawnSync('pgrep', ['-f', `kill -INT "\\$0" ${database}$`]).status).toBe(1);
    process.kill(server, 'SIGKILL');
    await until('the server', () => /Mistpeak is back/.test(printed));
    expect(await status()).toBe(200);
    expect(printed).toMatch(/Mistpeak ended .* It is started again in 1 s/);
  });

  it('killed, leaves no database behind; the next start takes over, at once', async () => {
    const database = postmaster();
    process.kill(launcherPid(), 'SIGKILL');
    await start();
    await until('the old one gone', () => !isRunningProcess(database));
    // The one that was told to end the old database leaves the new one alone.
    await new Promise((resolve) => setTimeout(resolve, 2000));
    expect(isRunningProcess(postmaster())).toBe(true);
    expect(await status()).toBe(200);
    const last = postmaster();
    process.kill(launcherPid(), 'SIGKILL');
    await until('no database', () => !isRunningProcess(last));
  });

  it('is not kept out by the number of another process', async () => {
    writeFileSync(join(data, 'launcher.pid'), `${process.pid} 1`);
    await start();
    expect(await status()).toBe(200);
    const other = spawnSync(COMMAND, ['start', '--data', data], { encoding: 'utf8' });
    expect([other.status, other.stderr]).toEqual([1, expect.stringContaining('Mistpeak runs already on')]);
  });

  it('says in words that the key is lost', async () => {
    launcher.kill('SIGINT');
    await new Promise((resolve) => launcher.once('exit', resolve));
    const key = join(data, 'postgres/key');
    const before = readFileSync(key, 'utf8');
    for (const damaged of ['', 'no key', 'ab'.repeat(24)]) {
      writeFileSync(key, damaged);
      const { status: code, stderr } = spawnSync(COMMAND, ['start', '--data', data], { encoding: 'utf8' });
      expect([code, stderr.split('\n')[0]]).toEqual([1, 'The key of the database is lost or damaged:']);
      expect(stderr).not.toMatch(/ at .*\.[jt]s/);
    }
    writeFileSync(key, before);
  });
});

describe('the mark of a process', () => {
  it('is the same as long as it lives, and none when it is gone', async () => {
    const child = spawn('sleep', ['5']);
    const pid = child.pid as number;
    const mark = processMark(pid);
    expect(mark).toMatch(new RegExp(`^${pid} \\d+$`));
    expect(processMark(pid)).toBe(mark);
    child.kill('SIGKILL');
    await new Promise((resolve) => child.once('exit', resolve));
    expect([processMark(pid), isRunningProcess(pid), isRunningProcess(NaN), isRunningProcess(0)]).toEqual([
      undefined,
      false,
      false,
      false,
    ]);
  });
});
