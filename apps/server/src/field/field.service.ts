import { Inject, Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { readingOf } from '@mistpeak/core/power/readings';
import type { FieldSettings, FieldView, NewReading, ReadingView } from '@mistpeak/contract/field';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { LiveService } from '../live/live.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { RemovalsService } from '../removals/removals.service.js';

/** Battery, wires and antenna as they are told, and the readings by which the forecast is put right. Core reckons with them. */
@Injectable()
export class FieldService implements OnApplicationBootstrap {
  private settings: FieldView['settings'];
  private readings: readonly ReadingView[] = [];

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly live: LiveService,
    private readonly removals: RemovalsService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('field', () => this.view());
    const [row]: { settings: FieldSettings; version: number }[] = await this.database.query(
      'SELECT settings, version FROM field WHERE id = 1',
    );
    if (row) this.settings = { ...row.settings, version: row.version };
    this.readings = await this.read();
  }

  view(): FieldView {
    return { ...(this.settings ? { settings: this.settings } : {}), readings: this.readings };
  }

  async save({ version, ...given }: FieldSettings): Promise<FieldView> {
    if (this.settings) refuseIfChanged(this.settings.version, version);
    const next = (this.settings?.version ?? 0) + 1;
    await this.database.query(
      `INSERT INTO field (id, settings, version) VALUES (1, $1, $2)
       ON CONFLICT (id) DO UPDATE SET settings = excluded.settings, version = excluded.version`,
      [JSON.stringify(given), next],
    );
    this.settings = { ...given, version: next };
    return this.tell();
  }

  /** Refused where it tells nothing of the charge: a loaded voltage, one of another kind of battery. */
  async keep(id: string, reading: NewReading): Promise<FieldView> {
    if (!this.settings)
      throw new ProblemException('field-refused', { kind: 'tell first what the battery is' });
    const told = readingOf(this.settings.bank, reading);
    if (told.kind === 'nothing')
      throw new ProblemException('field-refused', {
        [reading.kind === 'counted' ? 'takenAh' : 'volts']: told.why,
      });
    await this.database.query(
      'INSERT INTO battery_reading (id, at, reading) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING',
      [id, new Date(this.clock.nowMs()).toISOString(), JSON.stringify(reading)],
    );
    return this.publish();
  }

  async remove(id: string): Promise<void> {
    if (!this.readings.some((one) => one.id === id)) return;
    await this.removals.remove({
      key: keyOf(id),
      words: 'a reading of the battery',
      changed: async () => void (await this.publish()),
      finish: async () => void (await this.database.query('DELETE FROM battery_reading WHERE id = $1', [id])),
    });
  }

  private async publish(): Promise<FieldView> {
    this.readings = await this.read();
    return this.tell();
  }

  private tell(): FieldView {
    const view = this.view();
    this.live.publish({ kind: 'field', data: view });
    return view;
  }

  private async read(): Promise<ReadingView[]> {
    const rows: { id: string; at: Date; reading: NewReading }[] = await this.database.query(
      'SELECT id, at, reading FROM battery_reading ORDER BY at, id',
    );
    return rows
      .filter(({ id }) => !this.removals.isLeaving(keyOf(id)))
      .map(({ id, at, reading }) => ({ ...reading, id, atMs: at.getTime() }));
  }
}

const keyOf = (id: string): string => `battery reading ${id}`;
