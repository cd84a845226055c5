import type { IncomingMessage } from 'node:http';
import type { Repository } from 'typeorm';
import type { DatabaseSession } from '../database/session.js';
import { MovedClock } from '../testing/moved-clock.js';
import type { LoginEntity } from './login.entity.js';
import { cookieName, Logins } from './logins.js';

const settle = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** The table, and reads of it that are answered when the test says so, with what stood there when they were asked. */
class SlowRows {
  stored: LoginEntity[] = [];
  readonly answers: (() => Promise<void>)[] = [];

  find(): Promise<LoginEntity[]> {
    const seen = [...this.stored];
    return new Promise((resolve) =>
      this.answers.push(() => {
        resolve(seen);
        return settle();
      }),
    );
  }

  save(row: LoginEntity): Promise<LoginEntity> {
    this.stored.push(row);
    return Promise.resolve(row);
  }

  delete(hashes: string[]): Promise<void> {
    this.stored = this.stored.filter(({ tokenHash }) => !hashes.includes(tokenHash));
    return Promise.resolve();
  }
}

const rows = new SlowRows();
let readAgain: () => void;
const database = {
  onNotice: (_: string, handler: () => void) => (readAgain = handler),
  onState: () => undefined,
  notify: () => Promise.resolve(),
};
const logins = new Logins(
  rows as unknown as Repository<LoginEntity>,
  new MovedClock(),
  database as unknown as DatabaseSession,
);
const ended: string[] = [];
logins.onEnd((id) => ended.push(id));

const bearing = (token: string): IncomingMessage => {
  const request = { socket: { localPort: 1 }, headers: {} } as IncomingMessage;
  return { ...request, headers: { cookie: `${cookieName(request)}=${token}` } } as IncomingMessage;
};
const letIn = (name: string): Promise<string> =>
  logins.letIn({ role: 'operator', entrance: 'code', name, address: '' });
const names = (): string[] =>
  logins
    .devices(undefined)
    .map(({ name }) => name)
    .sort();

beforeAll(async () => {
  const begun = logins.onModuleInit();
  await rows.answers.shift()?.();
  await begun;
});
afterAll(() => logins.onModuleDestroy());

describe('logins read again while somebody comes or goes', () => {
  it('leave in who was let in meanwhile', async () => {
    readAgain();
    const token = await letIn('came');
    await rows.answers.shift()?.();
    expect(logins.of(bearing(token))?.name).toBe('came');
    expect(ended).toEqual([]);
  });

  it('keep out who was put out meanwhile', async () => {
    const token = await letIn('goes');
    readAgain();
    await logins.end(({ name }) => name === 'goes');
    await rows.answers.shift()?.();
    expect(logins.of(bearing(token))).toBeUndefined();
    expect(ended).toHaveLength(1);
  });

  it('are what another process made of them', async () => {
    const [came] = rows.stored as [LoginEntity];
    rows.stored = [{ ...came, tokenHash: 'other', id: 'of another', name: 'elsewhere' }];
    readAgain();
    await rows.answers.shift()?.();
    expect(names()).toEqual(['elsewhere']);
    expect(ended.slice(1)).toEqual([came.id]);
  });
});
