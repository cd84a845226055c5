import { execFileSync, spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { chmodSync, chownSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { postgresBinaries } from './debian.js';
import { freePort } from './free-port.js';

const SUPERUSER = 'mistpeak';
const DATABASE = 'mistpeak';
/** Where a cluster goes whose folder the database user cannot enter. */
const ELSEWHERE = '/var/lib/mistpeak';

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
    if (!existsSync(join(this.cluster, 'PG_VERSION'))) this.make();
    // A cluster that outlived its launcher would hold the folder.
    if (this.isRunning()) this.stop();
    this.port = await freePort();
    this.startAgain();
    this.makeDatabase();
    return this.url();
  }

  /** Starts on the port it had before, or another. */
  startAgain(port = this.port): void {
    const options = [
      `-p ${port}`,
      '-c listen_addresses=127.0.0.1',
      "-c unix_socket_directories=''",
      ...(this.durable ? [] : ['-c fsync=off', '-c synchronous_commit=off', '-c full_page_writes=off']),
    ].join(' ');
    this.run('pg_ctl', ['-D', this.cluster, '-w', '-s', '-l', this.log, '-o', options, 'start']);
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
    const there = execFileSync(join(this.binaries, 'psql'), [...where, ...query], { env, encoding: 'utf8' });
    if (there.trim() !== '1') execFileSync(join(this.binaries, 'createdb'), [...where, DATABASE], { env });
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
    const tail = existsSync(this.log)
      ? readFileSync(this.log, 'utf8').split('\n').slice(-8).join('\n')
      : (error?.message ?? '');
    throw new Error(`PostgreSQL: ${program} failed.\n${tail}`);
  }
}

function postgresUser(): User {
  const id = (flag: string): number => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }));
  return { uid: id('-u'), gid: id('-g') };
}
