import { Inject, Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import type { ChainSettings, ChainView } from '@mistpeak/contract/chain';
import type { Purpose } from '@mistpeak/core/proof/ladder';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { KitService } from '../kit/kit.service.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { RemovalsService } from '../removals/removals.service.js';
import { ChainEntity } from './chain.entity.js';

/** The chains that the operator saved. One of them is on the Bench. */
@Injectable()
export class ChainService implements OnModuleInit {
  private current: readonly ChainView[] = [];

  constructor(
    @InjectRepository(ChainEntity) private readonly rows: Repository<ChainEntity>,
    private readonly links: LinksService,
    private readonly kit: KitService,
    private readonly live: LiveService,
    private readonly removals: RemovalsService,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {}

  async onModuleInit(): Promise<void> {
    this.live.contribute('chains', () => this.current);
    await this.read();
  }

  view(id: string): ChainView {
    const known = this.current.find((one) => one.id === id);
    if (!known) throw new ProblemException('not-found');
    return known;
  }

  async add(settings: ChainSettings, id: string): Promise<ChainView> {
    if (!this.current.some((one) => one.id === id)) await this.save({ id, onBench: false }, settings);
    return this.view(id);
  }

  async change(id: string, settings: ChainSettings): Promise<ChainView> {
    const { version, onBench } = this.view(id);
    refuseIfChanged(version, settings.version);
    await this.save({ id, onBench, version }, settings);
    return this.view(id);
  }

  /** Parts of the kit are taken as they are in the kit, so that nobody saves what is not so. */
  private async save(known: Partial<ChainEntity>, settings: ChainSettings): Promise<void> {
    const { purpose, antenna, isMoving, schools, linkId = null, radioPort = null } = settings;
    if (linkId !== null) this.links.view(linkId); // refuses a link that is not there
    const name = settings.name.trim();
    const parts = settings.parts.map((part) => this.kit.asNow(part));
    const savedAt = new Date(this.clock.nowMs());
    const values = { name, purpose, parts, radioPort, antenna, isMoving, schools, linkId, savedAt };
    await this.rows.save({ ...known, ...values });
    await this.publish();
  }

  async putOnBench(id: string): Promise<ChainView> {
    this.view(id);
    await this.rows.manager.transaction(async (manager) => {
      await manager.update(ChainEntity, { onBench: true }, { onBench: false });
      await manager.update(ChainEntity, { id }, { onBench: true });
    });
    await this.publish();
    return this.view(id);
  }

  async remove(id: string): Promise<void> {
    const { name, parts } = this.view(id);
    await this.removals.remove({
      key: keyOf(id),
      words: name
        ? `the chain “${name}”`
        : `the chain from ${parts[0]?.name ?? ''} to ${parts.at(-1)?.name ?? ''}`,
      changed: () => this.publish(),
      finish: async () => void (await this.rows.delete(id)),
    });
  }

  private async publish(): Promise<void> {
    await this.read();
    this.live.publish({ kind: 'chains', data: this.current });
  }

  private async read(): Promise<void> {
    const rows = await this.rows.find({ order: { savedAt: 'DESC' } });
    this.current = rows.filter(({ id }) => !this.removals.isLeaving(keyOf(id))).map(viewOf);
  }
}

const keyOf = (id: string): string => `chain ${id}`;

function viewOf({ savedAt, purpose, radioPort, ...row }: ChainEntity): ChainView {
  return {
    ...row,
    purpose: purpose as Purpose,
    savedAtMs: savedAt.getTime(),
    ...(radioPort === null ? {} : { radioPort }),
  };
}
