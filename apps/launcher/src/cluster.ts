import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import {
  chmodSync,
  chownSync,
  existsSync,
  mkdirSync,
  readFileSync,
  rmSync,
  statfsSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { postgresBinaries } from './debian.js';
import { freePort } from './free-port.js';
import type { Life } from './kept-alive.js';
import { isRunningProcess } from './process-mark.js';

const SUPERUSER = 'mistpeak';
const DATABASE = 'mistpeak';
/** Where a cluster goes whose folder the database user cannot enter. */
const ELSEWHERE = '/var/lib/mistpeak';
const LOOK_EVERY_MS = 500;
/** For pg_ctl(1): after a power cut a small computer may need minutes to mend what was not written; a start that fails ends at once. */
const START_WITHIN_S = 600;
/** How long those who still write are waited for when the launcher was killed, s. */
const GRACE_S = 10;

interface User {
  readonly uid: number;
  readonly gid: number;
}

/**
 * A private PostgreSQL cluster in a folder: made when it is not there, on loopback only, on a free port,
 * with a password of its own. PostgreSQL refuses to run as root, so root hands it to Debian's postgres user.
 */
export class Cluster {
  private readonly binaries: string;
  private readonly user: User | undefined;
  /** cluster/ is PostgreSQL's own; key and log lie beside it. */
  private readonly folder: string;
  private readonly cluster: string;
  private readonly keyFile: string;
  private readonly log: string;
  private port = 0;

  /** durable: false only for tests, where losing everything at a power cut is no loss. */
  constructor(
    data: string,
    private readonly durable = true,
  ) {
    const binaries = postgresBinaries();
    if (!binaries) throw new Error('PostgreSQL 15 or newer is not installed.');
    this.binaries = binaries;
    this.user = process.getuid?.() === 0 ? postgresUser() : undefined;
    mkdirSync(data, { recursive: true });
    this.folder = this.reachableFolder(join(data, 'postgres'));
    this.cluster = join(this.folder, 'cluster');
    this.keyFile = join(this.folder, 'key');
    this.log = join(this.folder, 'server.log');
  }

  /** Starts it, making it first if needed. Returns the database's address. */
  async start(): Promise<string> {
    const isNew = !existsSync(join(this.cluster, 'PG_VERSION'));
    this.refuseWithoutSpace();
    if (isNew) this.make();
    else this.refuseWithoutKey();
    // A cluster that outlived its launcher would hold the folder.
    if (this.isRunning()) this.stop();
    this.port = await freePort();
    this.startAgain();
    this.makeDatabase();
    return this.url();
  }

  /** One life of the running server. It ends when its main process does. */
  life(): Life {
    const watcher = this.endWithUs();
    let isStopping = false;
    const over = new Promise<string>((resolve) => {
      const look = setInterval(() => {
        if (isRunningProcess(this.postmaster())) return;
        clearInterval(look);
        // Later its number may be another's.
        endGroup(watcher);
        if (!isStopping) resolve(this.lastWords());
      }, LOOK_EVERY_MS);
    });
    return {
      over,
      stop: async () => {
        isStopping = true;
        // The group: the shell and what it waits with.
        endGroup(watcher);
        this.stop();
        await Promise.resolve();
      },
    };
  }

  /**
   * A shell that waits for the end of its input and then stops this very server (smart, then fast: PostgreSQL, "Shutting Down
   * the Server"): when this launcher is killed, nobody else would. Whoever still writes is given a moment first.
   */
  private endWithUs(): ChildProcess {
    const stop = `cat >/dev/null; kill -TERM "$0"; n=${GRACE_S}; while [ $n -gt 0 ] && kill -0 "$0"; do sleep 1; n=$((n-1)); done; kill -INT "$0"`;
    const shell = spawn('sh', ['-c', stop, String(this.postmaster())], {
      ...this.as(),
      detached: true,
      stdio: ['pipe', 'ignore', 'ignore'],
    });
    shell.on('error', () => undefined);
    shell.unref();
    return shell;
  }

  /** The number of the server's main process; 0 where there is none. */
  private postmaster(): number {
    try {
      return Number(readFileSync(join(this.cluster, 'postmaster.pid'), 'utf8').split('\n')[0]);
    } catch {
      return 0;
    }
  }

  private lastWords(): string {
    return isFull(this.folder) ? NO_SPACE : (logTail(this.log).split('\n').at(-1) ?? '');
  }

  private refuseWithoutSpace(): void {
    if (isFull(this.folder)) throw new Error(`${NO_SPACE}\n${this.folder}`);
  }

  private refuseWithoutKey(): void {
    const key = existsSync(this.keyFile) ? readFileSync(this.keyFile, 'utf8') : '';
    if (!/^[0-9a-f]{48}$/.test(key)) throw new Error(keyIsLost(this.keyFile));
  }

  /** Starts on the port it had before, or another. */
  startAgain(port = this.port): void {
    const options = [
      `-p ${port}`,
      '-c listen_addresses=127.0.0.1',
      "-c unix_socket_directories=''",
      ...(this.durable ? [] : ['-c fsync=off', '-c synchronous_commit=off', '-c full_page_writes=off']),
    ].join(' ');
    this.run('pg_ctl', [
      '-D',
      this.cluster,
      '-w',
      '-t',
      String(START_WITHIN_S),
      '-s',
      '-l',
      this.log,
      '-o',
      options,
      'start',
    ]);
  }

  /** Fast: open transactions are rolled back, everything committed is kept. */
  stop(): void {
    if (this.isRunning()) this.run('pg_ctl', ['-D', this.cluster, '-w', '-s', '-m', 'fast', 'stop']);
  }

  isRunning(): boolean {
    if (!existsSync(join(this.cluster, 'postmaster.pid'))) return false;
    return spawnSync(join(this.binaries, 'pg_ctl'), ['-D', this.cluster, 'status'], this.as()).status === 0;
  }

  /** Everything in it is gone after this. */
  remove(): void {
    this.stop();
    rmSync(this.folder, { recursive: true, force: true });
  }

  private url(): string {
    return `postgres://${SUPERUSER}:${readFileSync(this.keyFile, 'utf8')}@127.0.0.1:${this.port}/${DATABASE}`;
  }

  private make(): void {
    // What a stopped initdb left is no cluster.
    rmSync(this.cluster, { recursive: true, force: true });
    writeFileSync(this.keyFile, randomBytes(24).toString('hex'), { mode: 0o600 });
    if (this.user) chownSync(this.keyFile, this.user.uid, this.user.gid);
    const access = ['-U', SUPERUSER, '-A', 'scram-sha-256', `--pwfile=${this.keyFile}`];
    this.run('initdb', ['-D', this.cluster, ...access, '-E', 'UTF8', '--locale=C.UTF-8']);
  }

  private makeDatabase(): void {
    const env = { ...process.env, PGPASSWORD: readFileSync(this.keyFile, 'utf8') };
    const where = ['-h', '127.0.0.1', '-p', String(this.port), '-U', SUPERUSER];
    const query = ['-d', 'postgres', '-Atc', `SELECT 1 FROM pg_database WHERE datname = '${DATABASE}'`];
    const asked = spawnSync(join(this.binaries, 'psql'), [...where, ...query], { env, encoding: 'utf8' });
    if (/password authentication failed/.test(asked.stderr)) {
      this.stop();
      throw new Error(keyIsLost(this.keyFile));
    }
    if (asked.status !== 0) throw new Error(`PostgreSQL does not answer.\n${asked.stderr.trim()}`);
    if (asked.stdout.trim() === '1') return;
    const made = spawnSync(join(this.binaries, 'createdb'), [...where, DATABASE], { env, encoding: 'utf8' });
    if (made.status !== 0) throw new Error(isFull(this.folder) ? NO_SPACE : made.stderr.trim());
  }

  /** The folder, if the database user can write there; else one under /var/lib. */
  private reachableFolder(wanted: string): string {
    if (this.claim(wanted)) return wanted;
    const mark = createHash('sha256').update(wanted).digest('hex').slice(0, 12);
    const other = join(ELSEWHERE, mark);
    if (this.claim(other)) return other;
    throw new Error(`The database user can write neither to ${wanted} nor to ${other}.`);
  }

  private claim(folder: string): boolean {
    mkdirSync(folder, { recursive: true });
    if (this.user) chownSync(folder, this.user.uid, this.user.gid);
    chmodSync(folder, 0o700);
    return spawnSync('test', ['-w', folder], this.as()).status === 0;
  }

  private as(): { uid?: number; gid?: number; cwd: string } {
    return { ...(this.user ?? {}), cwd: '/' };
  }

  private run(program: string, options: readonly string[]): void {
    // Output goes nowhere but into the log: a started server would hold our pipe open.
    const { status, error } = spawnSync(join(this.binaries, program), options, {
      ...this.as(),
      stdio: ['ignore', 'ignore', 'ignore'],
    });
    if (status === 0) return;
    const tail = logTail(this.log) || (error?.message ?? '');
    if (isFull(this.folder) || /no space left on device/i.test(tail))
      throw new Error(`${NO_SPACE}\n${this.folder}`);
    throw new Error(`PostgreSQL: ${program} failed.\n${tail}`);
  }
}

/** It may have ended by itself; then its number may be another's. */
function endGroup({ pid, exitCode, signalCode }: ChildProcess): void {
  try {
    if (pid && exitCode === null && signalCode === null) process.kill(-pid, 'SIGKILL');
  } catch {
    // Gone already.
  }
}

const NO_SPACE =
  'There is no space left where the data lies. Make room on that disk, or give another folder with --data, then start again.';

/** Half of what PostgreSQL needs to begin (a new cluster has about 40 MiB, its log another 16). */
const LEAST_FREE = 64 * 1024 * 1024;

function isFull(folder: string): boolean {
  const { bavail, bsize } = statfsSync(folder);
  return bavail * bsize < LEAST_FREE;
}

const keyIsLost = (file: string): string =>
  `The key of the database is lost or damaged:\n${file}\nPut it back from a copy of the data folder. Without it what was recorded cannot be read: --fresh begins anew.`;

function logTail(log: string): string {
  if (!existsSync(log)) return '';
  return readFileSync(log, 'utf8').trimEnd().split('\n').slice(-8).join('\n');
}

function postgresUser(): User {
  const id = (flag: string): number => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }));
  return { uid: id('-u'), gid: id('-g') };
}
