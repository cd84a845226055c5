import type { IncomingMessage } from 'node:http';
import { Inject, Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { hash, verify } from '@node-rs/argon2';
import {
  ROLES,
  type AccessView,
  type DeviceView,
  type PairingView,
  type Role,
} from '@mistpeak/contract/access';
import type { Clock } from '@mistpeak/link/clock';
import { Repository } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { DatabaseSession } from '../database/session.js';
import { LanService } from '../lan/lan.service.js';
import { ProblemException } from '../problems/problem.js';
import { GuessLimit } from './guess-limit.js';
import { RolePasswordEntity } from './login.entity.js';
import { Logins } from './logins.js';
import { OneTimeEntrances } from './one-time-entrances.js';
import { isLoopback } from './own-page.js';
import { PAIRING_LASTS_MS, Pairings } from './pairings.js';

/** Who may do what: everybody by a cookie, which a password, a pairing code, or a one-time address of the launcher gives. */
@Injectable()
export class AccessService implements OnModuleInit {
  /** In memory too: who is at the door must be known while the database is away. */
  private known: readonly RolePasswordEntity[] = [];
  private readonly guesses = new GuessLimit();
  private readonly pairings = new Pairings();
  private readonly entrances: OneTimeEntrances;

  constructor(
    @InjectRepository(RolePasswordEntity) private readonly passwords: Repository<RolePasswordEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
    @Inject(CONFIGURATION) private readonly configuration: Configuration,
    private readonly database: DatabaseSession,
    private readonly logins: Logins,
    private readonly lan: LanService,
  ) {
    this.entrances = new OneTimeEntrances(configuration.launcherSecret);
  }

  async onModuleInit(): Promise<void> {
    await this.readPasswords();
    this.database.onNotice('passwords', () => void this.readPasswords().catch(() => undefined));
  }

  /** The role of a request or upgrade; a watcher's cookie overrides that it comes from this machine. */
  roleOf(request: IncomingMessage): Role | null {
    const login = this.logins.of(request);
    return login?.role ?? (this.isTrusted(request) ? 'operator' : null);
  }

  view(request: IncomingMessage): AccessView {
    const login = this.logins.of(request);
    const role = this.roleOf(request);
    const isLocal = isLoopback(request);
    const seen = { role, isLocal, isTrusted: this.isTrusted(request), isLoggedIn: login !== undefined };
    // Who is nobody yet learns only by which doors one comes in.
    const set = new Set(this.known.map((one) => one.role));
    return {
      ...seen,
      passwords: { operator: set.has('operator'), watcher: set.has('watcher') },
      addresses: role === null ? [] : this.lan.addresses(),
    };
  }

  devices(request: IncomingMessage): DeviceView[] {
    return this.logins.devices(this.logins.of(request)?.id);
  }

  endDevice(id: string): Promise<void> {
    return this.logins.end((row) => row.id === id);
  }

  /** Whoever was let in is out, codes that wait let nobody in, and no device need trust this installation any more. */
  async closeHouse(): Promise<void> {
    this.pairings.forget();
    this.lan.close();
    await this.logins.end(({ entrance }) => entrance !== 'this machine');
  }

  /** A new password ends what was logged in with the old one. */
  async setPassword(role: Role, password: string): Promise<void> {
    if ((await this.roleWith(password)) !== undefined) throw new ProblemException('password-taken');
    await this.passwords.save({ role, hash: await hash(password) });
    await this.passwordsChanged();
    await this.endPassword(role);
  }

  async forgetPassword(role: Role): Promise<void> {
    await this.passwords.delete({ role });
    await this.passwordsChanged();
    await this.endPassword(role);
  }

  private async passwordsChanged(): Promise<void> {
    await this.readPasswords();
    await this.database.notify('passwords', {}).catch(() => undefined);
  }

  private async readPasswords(): Promise<void> {
    this.known = await this.passwords.find();
  }

  private endPassword(role: Role): Promise<void> {
    return this.logins.end((row) => row.role === role && row.entrance === 'password');
  }

  /** The token for the cookie. */
  async logIn(password: string, request: IncomingMessage): Promise<string> {
    this.countGuess(request);
    const role = await this.roleWith(password);
    if (!role) throw new ProblemException('wrong-password');
    this.guesses.giveBack(addressOf(request), isLoopback(request));
    return this.logins.letIn({ role, entrance: 'password', name: '', address: addressOf(request) });
  }

  /** A code for one device, to be typed or read from a picture. name: what the operator calls it. */
  makePairing(role: Role, name: string): PairingView {
    const authority = this.lan.authority();
    if (!authority) throw new ProblemException('not-on-the-network');
    return {
      code: this.pairings.make({ role, name }, this.clock.upMs()),
      role,
      expiresAtMs: this.clock.nowMs() + PAIRING_LASTS_MS,
      addresses: this.lan.addresses(),
      fingerprint: authority.fingerprint,
    };
  }

  /** The token for the cookie, for the device that brings the code first. A right one is never locked out by others' guesses. */
  async pair(code: string, request: IncomingMessage): Promise<string> {
    const paired = this.pairings.use(code, this.clock.upMs());
    if (paired) return this.logins.letIn({ ...paired, entrance: 'code', address: addressOf(request) });
    this.countGuess(request);
    throw new ProblemException('wrong-code');
  }

  /** For the launcher: the token of an address that lets the operator in at this machine, once. */
  makeEntrance(secret: string, request: IncomingMessage): string {
    if (!isLoopback(request) || !this.entrances.isLauncher(secret))
      throw new ProblemException('login-needed');
    return this.entrances.make(this.clock.upMs());
  }

  /** The token for the cookie; undefined when that address lets nobody in any more. */
  async enter(token: string, request: IncomingMessage): Promise<string | undefined> {
    if (!isLoopback(request) || !this.entrances.use(token, this.clock.upMs())) return undefined;
    return this.logins.letIn({
      role: 'operator',
      entrance: 'this machine',
      name: '',
      address: 'this machine',
    });
  }

  async logOut(request: IncomingMessage): Promise<void> {
    const login = this.logins.of(request);
    if (login) await this.logins.end(({ id }) => id === login.id);
  }

  /** The demo, whose far ends are stand-ins only, asks nobody on this machine. */
  private isTrusted(request: IncomingMessage): boolean {
    return (this.configuration.trustsLoopback ?? false) && isLoopback(request);
  }

  private countGuess(request: IncomingMessage): void {
    if (!this.guesses.take(addressOf(request), isLoopback(request), this.clock.upMs()))
      throw new ProblemException('too-many-tries');
  }

  private async roleWith(password: string): Promise<Role | undefined> {
    for (const row of this.known)
      if (await verify(row.hash, password)) return ROLES.find((role) => role === row.role);
    return undefined;
  }
}

const addressOf = ({ socket }: IncomingMessage): string =>
  (socket.remoteAddress ?? '').replace(/^::ffff:/, '');
