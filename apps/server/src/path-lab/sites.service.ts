import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatCallSign, parseCallSign } from '@mistpeak/core/callsign/callsign';
import type { SiteSettings, SiteView } from '@mistpeak/contract/path-lab';
import { LiveService } from '../live/live.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { RemovalsService } from '../removals/removals.service.js';
import { SiteEntity } from './site.entity.js';

/** Digipeaters, gateways and others as the operator knows them, by call. */
@Injectable()
export class SitesService implements OnModuleInit {
  private current: readonly SiteView[] = [];

  constructor(
    @InjectRepository(SiteEntity) private readonly rows: Repository<SiteEntity>,
    private readonly live: LiveService,
    private readonly removals: RemovalsService,
  ) {}

  async onModuleInit(): Promise<void> {
    this.live.contribute('sites', () => this.current);
    this.current = await this.read();
  }

  async save({ version, ...settings }: SiteSettings): Promise<SiteView> {
    const call = normalCall(settings.call);
    const known = await this.rows.findOneBy({ call });
    if (known) refuseIfChanged(known.version, version);
    const row = await this.rows.save({ ...known, ...settings, call });
    this.removals.drop(keyOf(call));
    await this.publish();
    return row;
  }

  /** All of a file, or nothing. */
  async take(sites: readonly SiteSettings[]): Promise<readonly SiteView[]> {
    const byCall = new Map(sites.map(({ version: _, ...site }) => [normalCall(site.call), site]));
    await this.rows.manager.transaction(async (manager) => {
      for (const [call, site] of byCall) {
        const known = await manager.findOneBy(SiteEntity, { call });
        await manager.save(SiteEntity, { ...known, ...site, call });
      }
    });
    for (const call of byCall.keys()) this.removals.drop(keyOf(call));
    await this.publish();
    return this.current;
  }

  async remove(call: string): Promise<void> {
    if (!this.current.some((site) => site.call === call)) return;
    await this.removals.remove({
      key: keyOf(call),
      words: `what is known of ${call}`,
      changed: () => this.publish(),
      finish: async () => void (await this.rows.delete(call)),
    });
  }

  private async publish(): Promise<void> {
    this.current = await this.read();
    this.live.publish({ kind: 'sites', data: this.current });
  }

  private async read(): Promise<SiteView[]> {
    const rows = await this.rows.find({ order: { call: 'ASC' } });
    return rows.filter(({ call }) => !this.removals.isLeaving(keyOf(call)));
  }
}

const keyOf = (call: string): string => `site ${call}`;

function normalCall(text: string): string {
  const call = parseCallSign(text);
  if (isMalformed(call)) throw new ProblemException('field-refused', { call: call.malformed });
  return formatCallSign(call);
}
