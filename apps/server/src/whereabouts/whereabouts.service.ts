import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { LineCutter, readGpsLine, type GpsFact } from '@mistpeak/core/beacon/gps-line';
import type { PagePosition, ReceiverSettings, WhereaboutsView } from '@mistpeak/contract/whereabouts';
import type { ByteLink } from '@mistpeak/link/byte-link';
import type { Clock } from '@mistpeak/link/clock';
import { failureOf } from '@mistpeak/link/failure';
import { waitBeforeRetryMs } from '@mistpeak/link/reconnect';
import { DataSource } from 'typeorm';
import { openSerial } from '../adapters/serial-port.js';
import { CLOCK } from '../adapters/system-clock.js';
import { openTcp } from '../adapters/tcp.js';
import { LiveService } from '../live/live.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { TrueTimeService } from '../true-time/true-time.service.js';

const OPENING_LIMIT_MS = 30_000;
/** Receivers tell every second; the pages are told less often. */
const TOLD_EVERY_MS = 2000;
/** Asks the position daemon for its reports (its public protocol, from memory); a receiver of plain NMEA takes no notice. */
const WATCH = '?WATCH={"enable":true,"json":true}\n';

export type Told = NonNullable<WhereaboutsView['fix']>;

/** Where we are: what a receiver at this machine tells, or a page that says so. */
@Injectable()
export class WhereaboutsService implements OnApplicationBootstrap, OnModuleDestroy {
  private settings: WhereaboutsView['receiver'] = { kind: 'none', version: 0 };
  private state: WhereaboutsView['state'] = 'none';
  private trouble: string | undefined;
  private fix: Told | undefined;
  private wire: ByteLink | undefined;
  private run = 0;
  private attempt = 0;
  private cancelRetry = (): void => undefined;
  private toldAtUpMs = -Infinity;
  private readonly handlers: ((fix: Told) => void)[] = [];

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly live: LiveService,
    private readonly trueTime: TrueTimeService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('whereabouts', () => this.view());
    const [row]: { settings: ReceiverSettings; version: number }[] = await this.database.query(
      'SELECT settings, version FROM position_receiver WHERE id = 1',
    );
    if (row) this.settings = { ...row.settings, version: row.version };
    void this.listen();
  }

  async onModuleDestroy(): Promise<void> {
    this.run++;
    this.cancelRetry();
    await this.wire?.close();
  }

  onFix(handler: (fix: Told) => void): void {
    this.handlers.push(handler);
  }

  latest(): Told | undefined {
    return this.fix;
  }

  view(): WhereaboutsView {
    return {
      receiver: this.settings,
      state: this.state,
      ...(this.trouble === undefined ? {} : { trouble: this.trouble }),
      ...(this.fix ? { fix: this.fix } : {}),
    };
  }

  async choose({ version, ...settings }: ReceiverSettings): Promise<WhereaboutsView> {
    if (this.settings.version > 0) refuseIfChanged(this.settings.version, version);
    const next = this.settings.version + 1;
    await this.database.query(
      `INSERT INTO position_receiver (id, settings, version) VALUES (1, $1, $2)
       ON CONFLICT (id) DO UPDATE SET settings = excluded.settings, version = excluded.version`,
      [JSON.stringify(settings), next],
    );
    this.settings = { ...settings, version: next };
    this.attempt = 0;
    void this.listen();
    return this.view();
  }

  /** A page tells where its device is. */
  tell(position: PagePosition): void {
    const { latitudeDeg, longitudeDeg, ...rest } = position;
    this.note({ position: { latitudeDeg, longitudeDeg }, ...rest }, 'page');
    this.publish();
  }

  /** Opens what was chosen and reads it; tries again with growing waits. A later call replaces this one. */
  private async listen(): Promise<void> {
    const run = ++this.run;
    this.cancelRetry();
    await this.wire?.close();
    this.wire = undefined;
    if (run !== this.run) return;
    if (this.settings.kind === 'none') return this.change('none');
    this.change('opening');
    try {
      const wire = await this.open();
      if (run !== this.run) return void (await wire.close());
      this.wire = wire;
      this.change('silent');
      if (this.settings.kind === 'network') await wire.send(Buffer.from(WATCH));
      const cutter = new LineCutter();
      for await (const octets of wire.receive) {
        for (const line of cutter.push(Buffer.from(octets).toString('latin1'))) this.take(readGpsLine(line));
      }
      if (run === this.run) this.retry('it hung up');
    } catch (error) {
      if (run === this.run) this.retry(failureOf(error).failure);
    }
  }

  private async open(): Promise<ByteLink> {
    const { kind, device = '', speed = 0, host = '', port = 0 } = this.settings;
    const limit = new AbortController();
    const cancel = this.clock.after(OPENING_LIMIT_MS, () => limit.abort());
    try {
      return kind === 'serial'
        ? await openSerial(device, speed, limit.signal)
        : await openTcp(host, port, limit.signal);
    } finally {
      cancel();
    }
  }

  private retry(trouble: string): void {
    this.wire = undefined;
    this.change('failed', trouble);
    this.cancelRetry = this.clock.after(waitBeforeRetryMs(++this.attempt, 0), () => void this.listen());
  }

  private take(fact: GpsFact | undefined): void {
    if (!fact) return;
    const { timeMs, ...place } = fact;
    if (timeMs !== undefined) this.trueTime.receiverTold(timeMs);
    this.note(place, 'receiver');
    this.attempt = 0;
    if (this.state !== 'telling' && this.fix) return this.change('telling');
    if (this.clock.upMs() - this.toldAtUpMs >= TOLD_EVERY_MS) this.publish();
  }

  /** A line tells a part: the place in one, course and speed in the next. */
  private note(fact: GpsFact, by: Told['by']): void {
    const before = this.fix?.by === by ? this.fix : undefined;
    const position = fact.position ?? before?.position;
    if (!position) return;
    const fix: Told = { ...before, ...fact, position, by, atMs: this.clock.nowMs() };
    this.fix = fix;
    if (fact.position) for (const handler of this.handlers) handler(fix);
  }

  private change(state: WhereaboutsView['state'], trouble?: string): void {
    this.state = state;
    this.trouble = trouble;
    this.publish();
  }

  private publish(): void {
    this.toldAtUpMs = this.clock.upMs();
    this.live.publish({ kind: 'whereabouts', data: this.view() });
  }
}
