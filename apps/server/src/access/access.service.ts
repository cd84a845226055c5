import { createHash, randomBytes } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import { Inject, Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { hash, verify } from '@node-rs/argon2';
import { parse } from 'cookie';
import { ROLES, type AccessView, type PairingView, type Role } from '@mistpeak/contract/access';
import type { Clock } from '@mistpeak/link/clock';
import { MoreThan, Repository } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { ProblemException } from '../problems/problem.js';
import { LoginEntity, RolePasswordEntity } from './login.entity.js';
import { LanService } from '../lan/lan.service.js';
import { isLoopback } from './own-page.js';
import { PAIRING_LASTS_MS, Pairings } from './pairings.js';

export const LOGIN_LASTS_MS = 30 * 86_400_000;
const MOST_FAILURES = 5;
const FAILURES_COUNT_MS = 60_000;

/** Who may do what: the operator on this machine without a login, everybody else by a password and a cookie. */
@Injectable()
export class AccessService {
  private failures: number[] = [];
  private readonly pairings = new Pairings();

  constructor(
    @InjectRepository(RolePasswordEntity) private readonly passwords: Repository<RolePasswordEntity>,
    @InjectRepository(LoginEntity) private readonly logins: Repository<LoginEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly lan: LanService,
  ) {}

  /** The role of a request or upgrade; a watcher's cookie overrides that it comes from this machine. */
  async roleOf(request: IncomingMessage): Promise<Role | null> {
    const login = await this.loginOf(request);
    return login?.role ?? (isLoopback(request) ? 'operator' : null);
  }

  async view(request: IncomingMessage): Promise<AccessView> {
    const login = await this.loginOf(request);
    const set = new Set((await this.passwords.find()).map(({ role }) => role));
    return {
      role: login?.role ?? (isLoopback(request) ? 'operator' : null),
      isLocal: isLoopback(request),
      isLoggedIn: login !== undefined,
      passwords: { operator: set.has('operator'), watcher: set.has('watcher') },
      addresses: this.lan.addresses(),
    };
  }

  /** A new password ends what was logged in with the old one. */
  async setPassword(role: Role, password: string): Promise<void> {
    if ((await this.roleWith(password)) !== undefined) throw new ProblemException('password-taken');
    await this.passwords.save({ role, hash: await hash(password) });
    await this.logins.delete({ role });
  }

  async forgetPassword(role: Role): Promise<void> {
    await this.passwords.delete({ role });
    await this.logins.delete({ role });
  }

  /** The token for the cookie. */
  async logIn(password: string): Promise<string> {
    this.refuseGuessing();
    const role = await this.roleWith(password);
    if (!role) return this.countFailure('wrong-password');
    return this.tokenFor(role);
  }

  /** A code for one device, to be typed or read from a picture. */
  makePairing(role: Role): PairingView {
    const authority = this.lan.authority();
    if (!authority) throw new ProblemException('not-on-the-network');
    const nowMs = this.clock.nowMs();
    return {
      code: this.pairings.make(role, nowMs),
      role,
      expiresAtMs: nowMs + PAIRING_LASTS_MS,
      addresses: this.lan.addresses(),
      fingerprint: authority.fingerprint,
    };
  }

  /** The token for the cookie, for the device that brings the code first. */
  async pair(code: string): Promise<string> {
    this.refuseGuessing();
    const role = this.pairings.use(code, this.clock.nowMs());
    if (!role) return this.countFailure('wrong-code');
    return this.tokenFor(role);
  }

  private refuseGuessing(): void {
    const nowMs = this.clock.nowMs();
    this.failures = this.failures.filter((atMs) => nowMs - atMs < FAILURES_COUNT_MS);
    if (this.failures.length >= MOST_FAILURES) throw new ProblemException('too-many-tries');
  }

  private countFailure(reason: 'wrong-password' | 'wrong-code'): never {
    this.failures.push(this.clock.nowMs());
    throw new ProblemException(reason);
  }

  private async tokenFor(role: Role): Promise<string> {
    const nowMs = this.clock.nowMs();
    const token = randomBytes(32).toString('base64url');
    const expiresAt = new Date(nowMs + LOGIN_LASTS_MS);
    await this.logins.save({ tokenHash: hashOf(token), role, expiresAt });
    return token;
  }

  /** A watcher gives the place back only where the operator has no password to be asked for. */
  async logOut(request: IncomingMessage): Promise<void> {
    const login = await this.loginOf(request);
    if (!login) return;
    const isAsked = login.role === 'watcher' && isLoopback(request);
    if (isAsked && (await this.passwords.existsBy({ role: 'operator' })))
      throw new ProblemException('operator-password-needed');
    await this.logins.delete({ tokenHash: login.tokenHash });
  }

  private async loginOf(request: IncomingMessage): Promise<LoginEntity | undefined> {
    const token = parse(request.headers.cookie ?? '')[cookieName(request)];
    if (!token) return undefined;
    const expiresAt = MoreThan(new Date(this.clock.nowMs()));
    return (await this.logins.findOneBy({ tokenHash: hashOf(token), expiresAt })) ?? undefined;
  }

  private async roleWith(password: string): Promise<Role | undefined> {
    for (const row of await this.passwords.find())
      if (await verify(row.hash, password)) return ROLES.find((role) => role === row.role);
    return undefined;
  }
}

/** Cookies do not tell ports apart: two installations on one machine must not share theirs. */
export function cookieName({ socket }: IncomingMessage): string {
  return `mistpeak-${socket.localPort ?? 0}`;
}

function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}
