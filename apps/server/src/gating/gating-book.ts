import { randomUUID } from 'node:crypto';
import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import {
  GATINGS,
  type Gating,
  type GatingDecision,
  type GatingRefusal,
  type GatingSettings,
  type GatingView,
} from '@mistpeak/contract/gating';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';

const DECISIONS_SHOWN = 60;
const TOLD_EVERY_MS = 500;

type Counts = { [Name in Gating]: { passed: number; refused: Record<string, number> } };

/** The settings of what is passed on for others, and every decision, counted by reason. */
@Injectable()
export class GatingBook implements OnApplicationBootstrap, OnModuleDestroy {
  settings: (GatingSettings & { readonly version: number }) | undefined;
  private decisions: GatingDecision[] = [];
  private readonly counts = Object.fromEntries(
    GATINGS.map((gating) => [gating, { passed: 0, refused: {} }]),
  ) as Counts;
  private cancelTelling: (() => void) | undefined;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly links: LinksService,
    private readonly live: LiveService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('gating', () => this.view());
    const [row]: { settings: GatingSettings; version: number }[] = await this.database.query(
      'SELECT settings, version FROM gating WHERE id = 1',
    );
    if (row) this.settings = { ...row.settings, version: row.version };
  }

  onModuleDestroy(): void {
    this.cancelTelling?.();
  }

  view(): GatingView {
    return {
      ...(this.settings ? { settings: this.settings } : {}),
      counts: structuredClone(this.counts),
      decisions: this.decisions,
    };
  }

  async choose({ version, ...given }: GatingSettings): Promise<GatingView> {
    if (this.settings) refuseIfChanged(this.settings.version, version);
    this.links.settings(given.linkId);
    if ((given.transmitGate || given.fillIn) && !given.allowsAutomatic)
      throw new ProblemException('field-refused', {
        allowsAutomatic: 'say that your local rules allow sending while nobody is there',
      });
    const next = (this.settings?.version ?? 0) + 1;
    await this.database.query(
      `INSERT INTO gating (id, settings, version) VALUES (1, $1, $2)
       ON CONFLICT (id) DO UPDATE SET settings = excluded.settings, version = excluded.version`,
      [JSON.stringify(given), next],
    );
    this.settings = { ...given, version: next };
    this.tellSoon();
    return this.view();
  }

  note(gating: Gating, source: string, words: string, refused?: GatingRefusal): void {
    const counts = this.counts[gating];
    if (refused === undefined) counts.passed++;
    else counts.refused[refused] = (counts.refused[refused] ?? 0) + 1;
    const decision: GatingDecision = {
      id: randomUUID(),
      atMs: this.clock.nowMs(),
      gating,
      source,
      words,
      ...(refused === undefined ? {} : { refused }),
    };
    this.decisions = [decision, ...this.decisions].slice(0, DECISIONS_SHOWN);
    this.tellSoon();
  }

  private tellSoon(): void {
    this.cancelTelling ??= this.clock.after(TOLD_EVERY_MS, () => {
      this.cancelTelling = undefined;
      this.live.publish({ kind: 'gating', data: this.view() });
    });
  }
}
