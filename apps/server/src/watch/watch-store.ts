import { Injectable } from '@nestjs/common';
import type { Alarm, Desk } from '@mistpeak/core/watch/desk';
import type { DutyEntry } from '@mistpeak/core/watch/duty-log';
import type { Sighting } from '@mistpeak/core/watch/sighting';
import type { Need } from '@mistpeak/core/watch/standing';
import type { WatchSettings } from '@mistpeak/contract/watch';
import { DataSource } from 'typeorm';
import { DeferredWrites } from '../database/deferred-writes.js';

export type KeptSettings = WatchSettings & { readonly version: number };

/** A desk as it is kept: who is on it stands in the settings. */
interface KeptDesk {
  readonly begunMs: number;
  readonly countsFromMs: number;
  readonly sightings: readonly (readonly [string, Sighting])[];
  readonly alarms: readonly (readonly [string, Alarm])[];
}

export const NO_WATCH: KeptSettings = { name: '', watched: [], legs: [], version: 0 };

@Injectable()
export class WatchStore {
  constructor(
    private readonly database: DataSource,
    private readonly deferred: DeferredWrites,
  ) {}

  async read(): Promise<{ settings: KeptSettings; desk?: Omit<Desk, 'watched'> }> {
    const [row]: { settings: WatchSettings; version: number; desk: KeptDesk | null }[] =
      await this.database.query('SELECT settings, version, desk FROM watch WHERE id = 1');
    if (!row) return { settings: NO_WATCH };
    const settings = { ...row.settings, version: row.version };
    if (!row.desk) return { settings };
    const { sightings, alarms, ...times } = row.desk;
    return { settings, desk: { ...times, sightings: new Map(sightings), alarms: new Map(alarms) } };
  }

  async keepSettings({ version, ...settings }: KeptSettings): Promise<void> {
    await this.database.query(
      `INSERT INTO watch (id, settings, version) VALUES (1, $1, $2)
       ON CONFLICT (id) DO UPDATE SET settings = excluded.settings, version = excluded.version`,
      [JSON.stringify(settings), version],
    );
  }

  keepDesk({ begunMs, countsFromMs, sightings, alarms }: Desk): Promise<boolean> {
    const kept: KeptDesk = { begunMs, countsFromMs, sightings: [...sightings], alarms: [...alarms] };
    return this.deferred.write('UPDATE watch SET desk = $1::jsonb WHERE id = 1', [JSON.stringify(kept)]);
  }

  keepEntry({ id, atMs, kind, call, label, need, words }: DutyEntry): Promise<boolean> {
    return this.deferred.write(
      `INSERT INTO duty_entry (id, at, kind, call, label, need, words) VALUES ($1, $2, $3, $4, $5, $6, $7)
       ON CONFLICT (id) DO NOTHING`,
      [id, new Date(atMs).toISOString(), kind, call ?? null, label ?? null, need ?? null, words],
    );
  }

  /** The last of those from a time on, oldest first. */
  async entries(sinceMs: number, most: number): Promise<DutyEntry[]> {
    const rows: {
      id: string;
      at: Date;
      kind: DutyEntry['kind'];
      call: string | null;
      label: string | null;
      need: Need | null;
      words: string;
    }[] = await this.database.query(
      'SELECT id, at, kind, call, label, need, words FROM duty_entry WHERE at >= $1 ORDER BY number DESC LIMIT $2',
      [new Date(sinceMs).toISOString(), most],
    );
    return rows.reverse().map(({ id, at, kind, call, label, need, words }) => ({
      id,
      atMs: at.getTime(),
      kind,
      words,
      ...(call === null ? {} : { call }),
      ...(label === null ? {} : { label }),
      ...(need === null ? {} : { need }),
    }));
  }
}
