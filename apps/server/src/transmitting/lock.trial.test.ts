import type { DataSource, Repository } from 'typeorm';
import { seededDice } from '@mistpeak/core/network/dice';
import { Timetable } from '@mistpeak/core/network/timetable';
import { uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { IDLE_LIMIT_MS } from '@mistpeak/core/transmitting/lock';
import { DeferredWrites } from '../database/deferred-writes.js';
import type { DatabaseSession } from '../database/session.js';
import type { Spool } from '../database/spool.js';
import type { LinksService } from '../links/links.service.js';
import type { LiveService } from '../live/live.service.js';
import type { OperatorService } from '../operator/operator.service.js';
import type { ProofService } from '../proof/proof.service.js';
import { TrafficService } from '../traffic/traffic.service.js';
import { LockService } from './lock.service.js';
import type { TransmissionEntity } from './transmitting.entity.js';
import { TransmissionLog } from './transmission-log.js';
import { TransmittingService } from './transmitting.service.js';

const LINK = '00000000-0000-4000-8000-000000000000';
const CALL = '1X9TST-7';
const SEEDS = 200;

/** What an operator, another server and time do to one link, in any order. */
const DEEDS = [
  'close',
  'close elsewhere',
  'take-up',
  'restart',
  'idle',
  ...(['arm', 'arm', 'arm', 'send', 'send', 'send', 'send', 'send', 'wait', 'wait', 'wait'] as const),
] as const;

/** The two services on a virtual clock; database and wire answer after a while that the dice tell. */
function station(seed: number) {
  const clock = new Timetable(1_000_000);
  const dice = seededDice(seed);
  const later = <Value>(value: Value): Promise<Value> =>
    new Promise((resolve) => clock.after(dice() * 400, () => resolve(value)));
  const wire: { begunBeforeClosing: boolean }[] = [];
  let closings = 0;
  const begun = new Map<string, number>();

  const inserting = {
    insert: () => inserting,
    values: () => inserting,
    orIgnore: () => inserting,
    returning: () => inserting,
    execute: () => later({ raw: [1] }),
  };
  const rows = {
    create: (row: TransmissionEntity) => row,
    findOneBy: () => later(null),
    findOneByOrFail: () => Promise.reject(new Error('not here')),
    find: () => later([]),
    update: () => later(undefined),
    createQueryBuilder: () => inserting,
  } as unknown as Repository<TransmissionEntity>;
  const notices = new Map<string, (data: unknown) => void>();
  const database = {
    away: () => false,
    onState: () => undefined,
    onNotice: (kind: string, handler: (data: unknown) => void) => notices.set(kind, handler),
    notify: () => later(undefined),
  } as unknown as DatabaseSession;
  const dataSource = { query: () => later([]) } as unknown as DataSource;
  const spool = { take: () => [], keep: () => undefined } as unknown as Spool;
  const run = {
    standIn: false,
    transmit: (frames: readonly { raw: Uint8Array }[]) => {
      for (const { raw } of frames) {
        const id = Buffer.from(raw).toString('latin1').slice(-6);
        wire.push({ begunBeforeClosing: begun.get(id) !== closings });
      }
      return later(undefined);
    },
  };

  /** One process; a restart makes another one on the same wire. */
  function start() {
    let changeHands: (linkId: string) => void = () => undefined;
    const links = {
      onChangedHands: (handler: typeof changeHands) => (changeHands = handler),
      onRemoved: () => undefined,
      openRun: () => run,
      isHeldElsewhere: () => false,
      settings: () => ({ airRate: 1200, txDelayMs: 300, txTailMs: 30 }),
    } as unknown as LinksService;
    const live = { contribute: () => undefined, publish: () => undefined } as unknown as LiveService;
    const operator = { ownCall: () => ({ call: '1X9TST', ssid: 7 }) } as unknown as OperatorService;
    const proof = { record: () => later(undefined) } as unknown as ProofService;
    const deferred = new DeferredWrites(dataSource, database, spool);
    const lock = new LockService(clock, database, deferred, links, operator, live);
    const log = new TransmissionLog(rows, clock, live, deferred);
    const transmitting = new TransmittingService(clock, links, lock, log, proof, new TrafficService());
    lock.onApplicationBootstrap();
    transmitting.onApplicationBootstrap();
    return { lock, transmitting, changeHands: () => changeHands(LINK) };
  }

  let process = start();
  let sent = 0;
  const isRefused = (): undefined => undefined;
  const close = (how: () => void): void => {
    closings++;
    how();
  };
  const deeds: Record<(typeof DEEDS)[number], () => Promise<unknown> | void> = {
    arm: () => process.lock.arm(LINK, CALL).catch(isRefused),
    close: () => close(() => void process.lock.disarm(LINK).catch(isRefused)),
    'close elsewhere': () => close(() => notices.get('close-lock')?.({ linkId: LINK })),
    'take-up': () => {
      process.changeHands();
      closings++;
    },
    restart: () => {
      const { lock } = process;
      close(() => lock.onModuleDestroy());
      process = start();
    },
    idle: () => {
      clock.advance(IDLE_LIMIT_MS + 1);
      closings++;
    },
    wait: () => clock.advance(dice() * 1500),
    send: () => {
      const id = String(++sent).padStart(6, '0');
      begun.set(id, closings);
      const frame = uiFrame(CALL, 'APZMPK', [], fromLatin1(`>${id}`));
      const outgoing = { linkId: LINK, frame, owner: `owner ${sent % 3}`, purpose: 'trial' };
      if (sent % 2 === 0) process.transmitting.offer({ ...outgoing, sendClass: 'session' }).catch(isRefused);
      else process.transmitting.command({ ...outgoing, id, sendClass: 'message' }).catch(isRefused);
    },
  };
  return { clock, dice, deeds, wire };
}

/** Promises are let run to their ends between any two deeds and appointments. */
const settle = async (): Promise<void> => {
  for (let i = 0; i < 30; i++) await Promise.resolve();
};

describe('arm, close, touch, expire, send, take up, restart, in any order', () => {
  it('nothing that was begun before a closing is on the wire after it', async () => {
    let onTheWire = 0;
    for (let seed = 1; seed <= SEEDS; seed++) {
      const { clock, dice, deeds, wire } = station(seed);
      for (let i = 0; i < 60; i++) {
        void deeds[DEEDS[Math.floor(dice() * DEEDS.length)] ?? 'wait']();
        await settle();
        for (let steps = Math.floor(dice() * 4); steps > 0 && clock.next(); steps--) await settle();
      }
      expect([seed, wire.filter(({ begunBeforeClosing }) => begunBeforeClosing)]).toEqual([seed, []]);
      onTheWire += wire.length;
    }
    // A trial in which nothing is sent would prove nothing.
    expect(onTheWire).toBeGreaterThan(SEEDS);
  });
});
