import { Inject, Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import type { TickSettings, TickView } from '@mistpeak/contract/chain';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { KitService } from '../kit/kit.service.js';
import { LiveService } from '../live/live.service.js';
import { ChainService } from './chain.service.js';
import { SheetTickEntity } from './chain.entity.js';

/** What was ticked on the setup sheets: each tick is kept, the last word on a step counts. */
@Injectable()
export class SheetService implements OnModuleInit {
  private readonly standing = new Map<string, TickView>();

  constructor(
    @InjectRepository(SheetTickEntity) private readonly rows: Repository<SheetTickEntity>,
    private readonly chains: ChainService,
    private readonly kit: KitService,
    private readonly live: LiveService,
    @Inject(CLOCK) private readonly clock: Clock,
  ) {}

  async onModuleInit(): Promise<void> {
    const rows: SheetTickEntity[] = await this.rows.query(
      `SELECT DISTINCT ON (chain_id, step_id) chain_id AS "chainId", step_id AS "stepId", is_done AS "isDone", at, measured, note
       FROM sheet_tick ORDER BY chain_id, step_id, at DESC`,
    );
    for (const { chainId, stepId, isDone, at, measured, note } of rows)
      this.keep({ chainId, stepId, isDone, atMs: at.getTime(), measured, note });
    this.live.contribute('ticks', () => [...this.standing.values()]);
  }

  async tick(chainId: string, settings: TickSettings): Promise<TickView> {
    this.chains.view(chainId); // refuses a chain that is not there
    const { stepId, isDone, measured, note, set } = settings;
    const atMs = this.clock.nowMs();
    await this.rows.insert({ chainId, stepId, isDone, measured, note, at: new Date(atMs) });
    const view: TickView = { chainId, stepId, isDone, atMs, measured, note };
    this.keep(view);
    this.live.publish({ kind: 'tick', data: view });
    if (isDone && set) await this.kit.setSwitch(set.itemId, set.switch, set.to);
    return view;
  }

  private keep(view: TickView): void {
    this.standing.set(`${view.chainId} ${view.stepId}`, view);
  }
}
