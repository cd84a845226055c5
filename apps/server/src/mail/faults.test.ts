import { randomUUID } from 'node:crypto';
import { DataSource } from 'typeorm';
import { equalOctets } from '@mistpeak/core/bits/octets';
import { pack } from '@mistpeak/core/lzhuf/container';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import {
  NOT_CONNECTED,
  type ExchangeContext,
  type ExchangeEffect,
  type ExchangeEvent,
  type ExchangeState,
  type Outgoing,
} from '@mistpeak/core/mail/exchange';
import { makeMid, writeLetter } from '@mistpeak/core/mail/letter';
import { packMessage } from '@mistpeak/core/mail/message';
import { step } from '@mistpeak/core/mail/step';
import { seededDice } from '@mistpeak/core/network/dice';
import type { MailRow } from '@mistpeak/contract/mail';
import type { MailDesk, MailRunDetail, MailRunView } from '@mistpeak/contract/mail-session';
import { MIGRATIONS } from '../app.module.js';
import { systemClock } from '../adapters/system-clock.js';
import type { DeferredWrites } from '../database/deferred-writes.js';
import { migrate } from '../database/migrate.js';
import { DatabaseProxy } from '../testing/database-proxy.js';
import { MailPeer, peerMail } from '../testing/mail-peer.js';
import { makeDatabase, OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';
import { Conversation } from './conversation.js';
import { MailHoldings } from './holdings.service.js';
import { MailStore } from './mail-store.js';

it('while the database is away a message is not confirmed: the session ends with the reason, and it comes again', async () => {
  const proxy = await DatabaseProxy.to(await makeDatabase());
  const server = await ServerUp.on(proxy.url);
  const peer = await MailPeer.listen();
  peer.challenge = undefined;
  await server.ask('PUT', '/operator', OPERATOR);
  const { version: _, ...settings } = (await server.ask<MailDesk>('GET', '/mail')).body.settings;
  const profile = {
    id: randomUUID(),
    name: 'service',
    way: 'tcp',
    from: TEST_CALL,
    host: '127.0.0.1',
    port: peer.port,
    gateways: [],
    exchanges: 'both',
    tries: 1,
  };
  await server.ask('PUT', '/mail/settings', { ...settings, profiles: [profile] });
  const session = async (): Promise<MailRunView> => {
    // Right after it came back, some of its old lines may still break.
    const body = await until('a session', async () => {
      const answer = await server.ask<MailRunView>('POST', '/mail/sessions', { profileId: profile.id });
      return answer.status === 201 ? answer.body : undefined;
    });
    return until('its end', async () => {
      const { status, body: now } = await server.ask<MailRunDetail>('GET', `/mail/sessions/${body.id}`);
      return status === 200 && now.run.phase === 'over' ? now.run : undefined;
    });
  };
  peer.waiting = [peerMail('DARK')];
  peer.misbehaves = {
    spoils: (blocks) => {
      void proxy.cut();
      return blocks;
    },
  };
  const run = await session();
  expect(run.attempts[0]?.result).toBe('not kept');
  expect(peer.heard).toMatch(/FS \+\r\*\*\* The message could not be stored here\r$/);
  expect(peer.waiting).toHaveLength(1);
  await proxy.mend();
  peer.misbehaves = {};
  expect((await session()).outcome?.ok).toBe(true);
  expect((await server.ask<MailRow[]>('GET', '/mail/messages?box=inbox')).body.map(({ mid }) => mid)).toEqual(
    ['DARK'],
  );
  await server.close();
  await peer.close();
  await proxy.cut();
});

const PROGRAM = { name: 'Trial', version: '1', can: 'B2FHM$' };
const KILLS = 100;

/** The other end: what it has outlives every session. */
class Service {
  readonly inbox = new Map<string, Uint8Array>();
  readonly outbox = new Map<string, Outgoing>();
  readonly faults: string[] = [];
  private readonly parts = new Map<string, Uint8Array>();

  session(say: (octets: Uint8Array) => void): Driven<ExchangeState, ExchangeEvent> {
    const driven = drive<ExchangeState, ExchangeEvent, ExchangeEffect, ExchangeContext>(step, NOT_CONNECTED, {
      clock: systemClock,
      context: (moment) => ({
        ...moment,
        role: 'called',
        own: 'GATE',
        peer: TEST_CALL,
        locator: '',
        addresses: [],
        program: PROGRAM,
        answerTo: () => undefined,
        outgoing: () => [...this.outbox.values()],
        has: (mid) => (this.inbox.has(mid) ? 'all' : this.parts.get(mid)),
        takes: true,
        largestOctets: 1_000_000,
        announces: true,
        patienceMs: 60_000,
      }),
      perform: (effect) => {
        if (effect.kind === 'say') say(effect.octets);
        if (effect.kind === 'part') this.parts.set(effect.mid, effect.packed);
        if (effect.kind === 'forget part') this.parts.delete(effect.mid);
        if (effect.kind === 'sent') this.outbox.delete(effect.mid);
        if (effect.kind !== 'keep') return;
        if (this.inbox.has(effect.mid)) this.faults.push(`${effect.mid} came twice`);
        this.inbox.set(effect.mid, effect.octets);
        driven.dispatch({ kind: 'kept', mid: effect.mid });
      },
    });
    return driven;
  }
}

it(`killed at ${KILLS} points, memory dropped each time: no letter is lost, doubled or changed, either way`, async () => {
  const url = await makeDatabase();
  await migrate(url, MIGRATIONS);
  const database = await new DataSource({ type: 'postgres', url }).initialize();
  const dice = seededDice(7);
  const service = new Service();
  const letters = new Map<string, Uint8Array>();
  const letter = (): { mid: string; octets: Uint8Array } => {
    const text = Array.from({ length: Math.floor(dice() * 120) }, () =>
      Math.floor(dice() * 1e9).toString(36),
    ).join(' ');
    const mid = makeMid(dice);
    const octets = packMessage(
      writeLetter({
        mid,
        dateMs: 0,
        from: 'QH7CTA',
        to: ['QH4MPK'],
        cc: [],
        subject: mid,
        text,
        files: [],
        origin: 'QH7CTA',
        beyondLatin1: 'utf-8',
      }),
    );
    letters.set(mid, octets);
    return { mid, octets };
  };
  const posted: string[] = [];
  const waiting: string[] = [];
  const usual = { isRead: true, atMs: 0, precedence: 'routine', onlyInternet: false } as const;

  for (let kill = 0; kill <= KILLS; kill++) {
    let isAlive = true;
    // Writes that wait when the process ends are gone with it.
    const deferred = {
      write: async (sql: string, values: unknown[]) => isAlive && (await database.query(sql, values), true),
    } as unknown as DeferredWrites;
    const store = new MailStore(database, deferred);
    if (kill < KILLS && kill % 2 === 0) {
      const mine = letter();
      await store.add({ ...usual, id: randomUUID(), box: 'outbox', isOurs: true, octets: mine.octets });
      posted.push(mine.mid);
      const theirs = letter();
      const packed = pack(theirs.octets);
      service.outbox.set(theirs.mid, {
        mid: theirs.mid,
        octets: theirs.octets.length,
        packedOctets: packed.length,
        packed,
        precedence: 'routine',
        subject: theirs.mid,
        to: 'QH4MPK',
        from: 'QH7CTA',
      });
      waiting.push(theirs.mid);
    }
    const holdings = new MailHoldings(systemClock, store);
    await holdings.read();
    const killAfter = kill === KILLS ? Infinity : Math.floor(dice() ** 1.5 * 2500);
    await new Promise<void>((resolve) => {
      let passed = 0;
      const over = (): void => {
        if (!isAlive) return;
        isAlive = false;
        far.dispatch({ kind: 'lost' });
        far.end();
        conversation.end();
        resolve();
      };
      const queue: (() => void)[] = [];
      const carry = (octets: Uint8Array, hear: (piece: Uint8Array) => void): void => {
        for (let at = 0; at < octets.length;) {
          const piece = octets.slice(at, at + 1 + Math.floor(dice() * 300));
          at += piece.length;
          queue.push(() => {
            passed += piece.length;
            if (passed > killAfter) return over();
            hear(piece);
          });
          setImmediate(() => isAlive && queue.shift()?.());
        }
      };
      const conversation: Conversation = new Conversation(
        {
          id: `session ${kill}`,
          clock: systemClock,
          holdings,
          isAttended: true,
          line: () => undefined,
          loggedIn: () => undefined,
          changed: () => undefined,
          received: () => undefined,
          wire: () => ({
            say: (octets) => carry(octets, (piece) => far.dispatch({ kind: 'data', octets: piece })),
            hangUp: () => undefined,
            drop: () => undefined,
          }),
          sent: (mid) => holdings.noteSent(mid, 'taken'),
          ended: () => setTimeout(over, 20),
        },
        {
          role: 'caller',
          own: TEST_CALL,
          peer: 'GATE',
          locator: '',
          addresses: ['QH4MPK'],
          program: PROGRAM,
          answerTo: () => undefined,
          outgoing: () => holdings.outgoing(`session ${kill}`, 'radio'),
          takes: true,
          largestOctets: 1_000_000,
          announces: false,
          patienceMs: 60_000,
        },
      );
      const far = service.session((octets) =>
        carry(octets, (piece) => conversation.dispatch({ kind: 'data', octets: piece })),
      );
      conversation.dispatch({ kind: 'connected' });
      far.dispatch({ kind: 'connected' });
    });
  }
  const rows = await database.query<{ mid: string; box: string; octets: Buffer }[]>(
    'SELECT mid, box, octets FROM mail_message',
  );
  await database.destroy();
  const inbox = rows.filter(({ box }) => box === 'inbox');
  expect(service.faults).toEqual([]);
  expect(inbox.map(({ mid }) => mid).sort()).toEqual([...waiting].sort());
  expect([...service.inbox.keys()].sort()).toEqual([...posted].sort());
  expect(
    rows
      .filter(({ box }) => box === 'sent')
      .map(({ mid }) => mid)
      .sort(),
  ).toEqual([...posted].sort());
  for (const [mid, octets] of [
    ...service.inbox,
    ...inbox.map(({ mid, octets }) => [mid, new Uint8Array(octets)] as const),
  ])
    expect([mid, equalOctets(octets, letters.get(mid) ?? new Uint8Array())]).toEqual([mid, true]);
});
