import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { judgeCut, type CutAsked, type PowerCut } from '@mistpeak/core/departure/power-cut';
import type { DepartureView, TickCheck } from '@mistpeak/contract/departure';
import type { LinkView } from '@mistpeak/contract/link';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { LiveService } from '../live/live.service.js';
import { MACHINE, type Machine } from './machine.js';

/** Links are given so long to open after a start. */
const COMES_UP_MS = 90_000;
const LOOK_EVERY_MS = 2000;

/** Ticks of the list before leaving, and the power cut that is tried at home. */
@Injectable()
export class DepartureService implements OnApplicationBootstrap, OnModuleDestroy {
  private done: Readonly<Record<string, number>> = {};
  private asked: CutAsked | undefined;
  private cut: PowerCut | undefined;
  private uptimeS: number | undefined;
  private beganMs = 0;
  private cancel: (() => void) | undefined;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    @Inject(CONFIGURATION) private readonly configuration: Configuration,
    @Inject(MACHINE) private readonly machine: Machine,
    private readonly database: DataSource,
    private readonly live: LiveService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('departure', () => this.view());
    const [row]: { asked: CutAsked | null; cut: PowerCut | null }[] = await this.database.query(
      'SELECT asked, cut FROM power_cut WHERE id = 1',
    );
    this.asked = row?.asked ?? undefined;
    this.cut = row?.cut ?? undefined;
    await this.readTicks();
    if (!this.asked) return;
    this.uptimeS = this.machine.uptimeS();
    this.beganMs = this.clock.upMs();
    this.lookSoon();
  }

  onModuleDestroy(): void {
    this.cancel?.();
  }

  view(): DepartureView {
    const { dataFolder } = this.configuration;
    return {
      done: this.done,
      startsByItself: this.machine.startsByItself(),
      ...(dataFolder === undefined ? {} : { freeGb: this.machine.freeGb(dataFolder) }),
      ...(this.asked ? { asked: this.asked } : {}),
      ...(this.cut ? { cut: this.cut } : {}),
    };
  }

  async tick({ id, isDone }: TickCheck): Promise<DepartureView> {
    await this.database.query(
      isDone
        ? 'INSERT INTO departure_tick (id, at) VALUES ($1, $2) ON CONFLICT (id) DO UPDATE SET at = excluded.at'
        : 'DELETE FROM departure_tick WHERE id = $1',
      isDone ? [id, new Date(this.clock.nowMs()).toISOString()] : [id],
    );
    return this.told();
  }

  /** The next trip begins with none. */
  async clear(): Promise<DepartureView> {
    await this.database.query('DELETE FROM departure_tick');
    return this.told();
  }

  /** The plug is pulled after this: what stands now must stand again. */
  async askCut(): Promise<DepartureView> {
    const { links } = this.live.snapshot();
    this.asked = {
      askedAtMs: Math.floor(this.clock.nowMs()),
      bootId: this.machine.bootId(),
      links: links.filter(isOpen).map(({ settings }) => settings.name),
      addresses: this.machine.addresses(),
    };
    await this.keep();
    return this.told();
  }

  async giveUpCut(): Promise<DepartureView> {
    this.asked = undefined;
    await this.keep();
    return this.told();
  }

  private lookSoon(): void {
    this.cancel = this.clock.after(LOOK_EVERY_MS, () => void this.look());
  }

  /** Judged when every link of before is open again, or has had its time. */
  private async look(): Promise<void> {
    const { asked } = this;
    if (!asked) return;
    const open = this.live
      .snapshot()
      .links.filter(isOpen)
      .map(({ settings }) => settings.name);
    const isAllOpen = asked.links.every((name) => open.includes(name));
    if (!isAllOpen && this.clock.upMs() - this.beganMs < COMES_UP_MS) return this.lookSoon();
    const [{ armed } = { armed: 0 }]: { armed: number }[] = await this.database.query(
      'SELECT count(*)::int AS armed FROM transmit_lock WHERE expires_at > $1',
      [new Date(this.clock.nowMs()).toISOString()],
    );
    this.cut = judgeCut(asked, {
      nowMs: Math.floor(this.clock.nowMs()),
      bootId: this.machine.bootId(),
      ...(this.uptimeS === undefined ? {} : { uptimeS: this.uptimeS }),
      openLinks: open,
      addresses: this.machine.addresses(),
      isLockClosed: armed === 0,
    });
    this.asked = undefined;
    await this.keep();
    await this.told();
  }

  private async keep(): Promise<void> {
    await this.database.query(
      `INSERT INTO power_cut (id, asked, cut) VALUES (1, $1, $2)
       ON CONFLICT (id) DO UPDATE SET asked = excluded.asked, cut = excluded.cut`,
      [JSON.stringify(this.asked ?? null), JSON.stringify(this.cut ?? null)],
    );
  }

  private async told(): Promise<DepartureView> {
    await this.readTicks();
    const view = this.view();
    this.live.publish({ kind: 'departure', data: view });
    return view;
  }

  private async readTicks(): Promise<void> {
    const rows: { id: string; at: Date }[] = await this.database.query('SELECT id, at FROM departure_tick');
    this.done = Object.fromEntries(rows.map(({ id, at }) => [id, at.getTime()]));
  }
}

const isOpen = ({ phase }: LinkView): boolean =>
  phase === 'silent' || phase === 'hearing' || phase === 'transmitting';
