import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import type { ChainSettings, ChainView } from '@mistpeak/contract/chain';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { ChainEntity } from './chain.entity.js';

@Injectable()
export class ChainService implements OnModuleInit {
  private views = new Map<string, ChainView>();

  constructor(
    @InjectRepository(ChainEntity) private readonly rows: Repository<ChainEntity>,
    private readonly links: LinksService,
    private readonly live: LiveService,
  ) {}

  async onModuleInit(): Promise<void> {
    this.views = new Map((await this.rows.find()).map((row) => [row.linkId, row as ChainView]));
    this.live.contribute('chains', () => [...this.views.values()]);
  }

  async save(linkId: string, settings: ChainSettings): Promise<ChainView> {
    this.links.view(linkId); // refuses a link that is not there
    const { purpose, radio, cable, host, isMoving } = settings;
    const view: ChainView = { linkId, purpose, radio, cable, host, isMoving };
    await this.rows.save(view);
    this.views.set(linkId, view);
    this.live.publish({ kind: 'chain', data: view });
    return view;
  }
}
