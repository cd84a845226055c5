import { Inject, Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import type { TransmissionView } from '@mistpeak/contract/beacon';
import type { LevelCheck, LevelResult, NewLevelResult, SendTestPacket } from '@mistpeak/contract/levels';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';
import { ProofService } from '../proof/proof.service.js';
import { LockService } from '../transmitting/lock.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';
import { LevelInTest } from './level-in-test.js';
import { LevelResultEntity } from './level-result.entity.js';

const SHOWN = 40;
/** The tocall of this program: what sent it (APRS 1.0.1, chapter 4). */
const TO = 'APZMPK';

/** What was measured, kept; it lights or darkens the rung of the level. And packets by which one's own sound is judged. */
@Injectable()
export class LevelsService implements OnModuleInit {
  private results: readonly LevelResult[] = [];
  private readonly level: LevelInTest;

  constructor(
    @InjectRepository(LevelResultEntity) private readonly rows: Repository<LevelResultEntity>,
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly links: LinksService,
    private readonly live: LiveService,
    private readonly lock: LockService,
    private readonly proof: ProofService,
    private readonly transmitting: TransmittingService,
  ) {
    this.level = new LevelInTest(clock, (linkId, dbfs) => links.sendSoundAt(linkId, dbfs));
  }

  async onModuleInit(): Promise<void> {
    const rows = await this.rows.find({ order: { at: 'DESC' }, take: SHOWN });
    this.results = rows.map(viewOf);
    this.live.contribute('levelResults', () => this.results);
  }

  async add(result: NewLevelResult, id: string): Promise<LevelResult> {
    const { linkId } = result;
    if (linkId) this.links.view(linkId);
    const known = this.results.find((one) => one.id === id);
    if (known) return known;
    const row = await this.rows.save({
      ...result,
      id,
      linkId: linkId ?? null,
      at: new Date(this.clock.nowMs()),
      isInWindow: result.isInWindow ?? null,
      levelDbfs: result.levelDbfs ?? null,
    });
    const view = viewOf(row);
    this.results = [view, ...this.results].slice(0, SHOWN);
    this.live.publish({ kind: 'level-results', data: this.results });
    if (linkId) await this.prove(linkId, view);
    return view;
  }

  /** A test packet; it stands behind the lock as everything does, and bears the call that armed it. */
  send({ linkId, number, text, levelDbfs }: SendTestPacket, id: string): Promise<TransmissionView> {
    const { call } = this.lock.view(linkId);
    if (!call) throw new ProblemException('not-armed');
    if (levelDbfs !== undefined) this.level.move(linkId, levelDbfs);
    const frame = uiFrame(call, TO, [], fromLatin1(`>test ${number} ${text}`.trimEnd()));
    return this.transmitting.command({
      id,
      linkId,
      frame,
      sendClass: 'test',
      owner: 'levels',
      purpose: 'test',
    });
  }

  /** Takes back what still waits; the level is that of the set-up again. */
  stop(linkId: string): void {
    this.level.restore(linkId);
    this.transmitting.withdraw(linkId, 'levels');
  }

  private async prove(
    linkId: string,
    { check, isInWindow, words, number, atMs }: LevelResult,
  ): Promise<void> {
    const evidence = { linkId, rung: 'level in the window', atMs } as const;
    if (check === 'radio was off') await this.proof.record({ ...evidence, kind: 'spoilt', words });
    if (check === 'receive' && isInWindow !== undefined)
      await this.proof.record({
        ...evidence,
        kind: isInWindow ? 'measurement' : 'spoilt',
        words: isInWindow ? number : `${words} ${number}`,
      });
  }
}

function viewOf({ at, linkId, isInWindow, levelDbfs, check, ...row }: LevelResultEntity): LevelResult {
  return {
    ...row,
    check: check as LevelCheck,
    atMs: at.getTime(),
    ...(linkId !== null && { linkId }),
    ...(isInWindow !== null && { isInWindow }),
    ...(levelDbfs !== null && { levelDbfs }),
  };
}
