import { Inject, Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { triedItem, type Result } from '@mistpeak/core/chain/record';
import type { Purpose } from '@mistpeak/core/proof/ladder';
import type { TrialSettings, TrialView } from '@mistpeak/contract/record';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { KitService } from '../kit/kit.service.js';
import { LiveService } from '../live/live.service.js';
import { ChainService } from './chain.service.js';
import { RemovalsService } from '../removals/removals.service.js';
import { TrialEntity } from './chain.entity.js';

/** The combination record: what was tried with what, for which purpose, and what came of it. */
@Injectable()
export class RecordService implements OnModuleInit {
  private current: readonly TrialView[] = [];

  constructor(
    @InjectRepository(TrialEntity) private readonly rows: Repository<TrialEntity>,
    private readonly chains: ChainService,
    private readonly kit: KitService,
    private readonly live: LiveService,
    private readonly removals: RemovalsService,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {}

  async onModuleInit(): Promise<void> {
    this.live.contribute('trials', () => this.current);
    await this.read();
  }

  async add(chainId: string, settings: TrialSettings, id: string): Promise<TrialView> {
    const made = this.current.find((one) => one.id === id);
    if (made) return made;
    const { purpose, parts, antenna } = this.chains.view(chainId);
    const { result, trick, levelDbfs = null, note, settings: values } = settings;
    const items = parts.map((part) => triedItem(this.kit.asNow(part)));
    // Nothing was tried in the future.
    const at = new Date(Math.min(this.clock.nowMs(), settings.atMs ?? Infinity));
    await this.rows.insert({
      id,
      at,
      purpose,
      items,
      antenna,
      result,
      trick,
      levelDbfs,
      note,
      settings: values,
    });
    await this.publish();
    return this.current.find((one) => one.id === id) as TrialView;
  }

  async remove(id: string): Promise<void> {
    const trial = this.current.find((one) => one.id === id);
    if (!trial) return;
    await this.removals.remove({
      key: keyOf(id),
      words: `a trial of ${new Date(trial.atMs).toISOString().slice(0, 10)}`,
      changed: () => this.publish(),
      finish: async () => void (await this.rows.delete(id)),
    });
  }

  private async publish(): Promise<void> {
    await this.read();
    this.live.publish({ kind: 'trials', data: this.current });
  }

  private async read(): Promise<void> {
    const rows = await this.rows.find({ order: { at: 'DESC' } });
    this.current = rows.filter(({ id }) => !this.removals.isLeaving(keyOf(id))).map(viewOf);
  }
}

const keyOf = (id: string): string => `trial ${id}`;

function viewOf({ at, purpose, result, levelDbfs, ...row }: TrialEntity): TrialView {
  return {
    ...row,
    purpose: purpose as Purpose,
    result: result as Result,
    atMs: at.getTime(),
    ...(levelDbfs === null ? {} : { levelDbfs }),
  };
}
