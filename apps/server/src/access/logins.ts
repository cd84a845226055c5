import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import { Inject, Injectable, Logger, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { parse } from 'cookie';
import type { DeviceView, Entrance, Role } from '@mistpeak/contract/access';
import { every, type Clock } from '@mistpeak/link/clock';
import { Repository } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { DatabaseSession } from '../database/session.js';
import { LoginEntity } from './login.entity.js';

export const LOGIN_LASTS_MS = 30 * 86_400_000;
/** How often it is looked whether a login has run out, so that its sockets end with it. */
const LOOK_EVERY_MS = 60_000;

/** A login that counts. endsUpMs: by the clock that only goes forward; seenAtMs: wall time. */
interface Login {
  readonly row: LoginEntity;
  readonly endsUpMs: number;
  seenAtMs: number;
}

/** How a browser came in, and what is known of it. */
export interface Arrival {
  readonly role: Role;
  readonly entrance: Entrance;
  readonly name: string;
  readonly address: string;
}

/**
 * Who was let in. Kept in memory as well, so that the role of a request is known at once, also while the database is away;
 * what one process changes the others read again. Across restarts logins go by wall time, else by one that nobody sets.
 */
@Injectable()
export class Logins implements OnModuleInit, OnModuleDestroy {
  private readonly log = new Logger('access');
  private readonly byHash = new Map<string, Login>();
  private readonly endHandlers = new Set<(id: string) => void>();
  private stopLooking: (() => void) | undefined;

  constructor(
    @InjectRepository(LoginEntity) private readonly rows: Repository<LoginEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DatabaseSession,
  ) {}

  async onModuleInit(): Promise<void> {
    await this.read();
    const readAgain = (): void =>
      void this.read().catch((error: unknown) => this.log.warn(`logins were not read: ${String(error)}`));
    this.database.onNotice('logins', readAgain);
    this.database.onState((away) => !away && readAgain());
    this.stopLooking = every(this.clock, LOOK_EVERY_MS, () => this.look());
  }

  onModuleDestroy(): void {
    this.stopLooking?.();
  }

  /** Calls with the id of each login that is over, however it ended: its sockets end with it. */
  onEnd(handler: (id: string) => void): () => void {
    this.endHandlers.add(handler);
    return () => void this.endHandlers.delete(handler);
  }

  /** The login of a request or upgrade. */
  of(request: IncomingMessage): LoginEntity | undefined {
    const token = parse(request.headers.cookie ?? '')[cookieName(request)];
    const login = token ? this.byHash.get(hashOf(token)) : undefined;
    if (!login || login.endsUpMs <= this.clock.upMs()) return undefined;
    login.seenAtMs = this.clock.nowMs();
    return login.row;
  }

  /** Returns the token for the cookie. */
  async letIn({ role, entrance, name, address }: Arrival): Promise<string> {
    const nowMs = this.clock.nowMs();
    const token = randomBytes(32).toString('base64url');
    const row = await this.rows.save({
      tokenHash: hashOf(token),
      id: randomUUID(),
      role,
      entrance,
      name,
      address,
      letInAt: new Date(nowMs),
      expiresAt: new Date(nowMs + LOGIN_LASTS_MS),
    });
    this.know(row);
    await this.tellOthers();
    return token;
  }

  devices(ofThisBrowser: string | undefined): DeviceView[] {
    return [...this.byHash.values()]
      .filter(({ endsUpMs }) => endsUpMs > this.clock.upMs())
      .map(({ row, seenAtMs }) => ({
        id: row.id,
        name: row.name,
        role: row.role,
        entrance: row.entrance,
        address: row.address,
        letInAtMs: row.letInAt.getTime(),
        seenAtMs,
        isThis: row.id === ofThisBrowser,
      }))
      .sort((a, b) => b.letInAtMs - a.letInAtMs);
  }

  /** Ends at once here; rejects while the database cannot be told, and so would let it in again. */
  async end(fits: (row: LoginEntity) => boolean): Promise<void> {
    const ended = [...this.byHash.values()].filter(({ row }) => fits(row)).map(({ row }) => row);
    for (const { tokenHash, id } of ended) this.forget(tokenHash, id);
    if (ended.length === 0) return;
    await this.rows.delete(ended.map(({ tokenHash }) => tokenHash));
    await this.tellOthers();
  }

  private know(row: LoginEntity, seenAtMs = row.letInAt.getTime()): void {
    const leftMs = row.expiresAt.getTime() - this.clock.nowMs();
    this.byHash.set(row.tokenHash, { row, endsUpMs: this.clock.upMs() + leftMs, seenAtMs });
  }

  /** Who comes or goes here while it is read is known better here. */
  private async read(): Promise<void> {
    const before = new Map(this.byHash);
    const rows = await this.rows.find();
    const stored = new Set(rows.map(({ tokenHash }) => tokenHash));
    for (const row of rows) if (!before.has(row.tokenHash)) this.know(row);
    for (const [hash, { row }] of before) if (!stored.has(hash)) this.forget(hash, row.id);
  }

  private forget(tokenHash: string, id: string): void {
    if (!this.byHash.delete(tokenHash)) return;
    for (const handler of this.endHandlers) handler(id);
  }

  private tellOthers(): Promise<void> {
    return this.database.notify('logins', {}).catch(() => undefined);
  }

  private look(): void {
    const nowUpMs = this.clock.upMs();
    this.end(({ tokenHash }) => (this.byHash.get(tokenHash)?.endsUpMs ?? Infinity) <= nowUpMs).catch(
      () => undefined,
    );
  }
}

/** Cookies do not tell ports apart: two installations on one machine must not share theirs. */
export function cookieName({ socket }: IncomingMessage): string {
  return `mistpeak-${socket.localPort ?? 0}`;
}

function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}
