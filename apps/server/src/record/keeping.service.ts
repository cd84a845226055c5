import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { NOT_APRS, NOT_AX25 } from '@mistpeak/contract/frame';
import {
  KEPT_KINDS,
  type KeepingSettings,
  type KeepingView,
  type KeptKind,
} from '@mistpeak/contract/keeping';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { OperatorService } from '../operator/operator.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';

const LOOK_EVERY_MS = 3_600_000;
const FIRST_LOOK_MS = 60_000;
/** PostgreSQL’s own estimate comes late (“ANALYZE”: a young table has none); so many are soon counted. */
const COUNTED_UP_TO = 10_000;
const DAY_MS = 86_400_000;
/** So many at once, so that whoever stores waits for none of it. */
const AT_ONCE = 5000;

/** Which entries each kind has; a scrap is one that is no frame, whichever way it came. */
const IS_SCRAP = `trouble IS NOT NULL AND trouble NOT IN ('${NOT_AX25}', '${NOT_APRS}')`;
const OF_KIND: Readonly<Record<KeptKind, string>> = {
  scraps: IS_SCRAP,
  radio: `origin IN ('kiss', 'sound') AND NOT coalesce(${IS_SCRAP}, false)`,
  internet: `origin = 'internet' AND NOT coalesce(${IS_SCRAP}, false)`,
  captures: `origin = 'capture' AND NOT coalesce(${IS_SCRAP}, false)`,
};

/** Drops what was heard long ago, by kind and age as the operator wants it; nothing that the operator did, and nothing that came back of it. */
@Injectable()
export class KeepingService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly log = new Logger('keeping');
  private settings: KeepingSettings & { readonly version: number } = { version: 0 };
  private cancel: (() => void) | undefined;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly operator: OperatorService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const [row]: { settings: KeepingSettings; version: number }[] = await this.database.query(
      'SELECT settings, version FROM keeping WHERE id = 1',
    );
    if (row) this.settings = { ...row.settings, version: row.version };
    this.lookAfter(FIRST_LOOK_MS);
  }

  onModuleDestroy(): void {
    this.cancel?.();
  }

  async view(): Promise<KeepingView> {
    const [size]: { octets: string; entries: string }[] = await this.database.query(
      `SELECT coalesce(sum(pg_total_relation_size(inhrelid)), 0) AS octets,
         coalesce(sum(greatest(reltuples, 0)), 0) AS entries
       FROM pg_inherits JOIN pg_class ON pg_class.oid = inhrelid WHERE inhparent = 'frames'::regclass`,
    );
    const [few]: { count: string }[] = await this.database.query(
      `SELECT count(*) FROM (SELECT FROM frames LIMIT ${COUNTED_UP_TO}) AS few`,
    );
    const [oldest]: { at: Date | null }[] = await this.database.query(
      'SELECT min(heard_at) AS at FROM frames',
    );
    return {
      settings: this.settings,
      octets: Number(size?.octets ?? 0),
      entries: Math.max(Math.round(Number(size?.entries ?? 0)), Number(few?.count ?? 0)),
      ...(oldest?.at ? { oldestAtMs: oldest.at.getTime() } : {}),
    };
  }

  async choose({ version, ...days }: KeepingSettings): Promise<KeepingView> {
    refuseIfChanged(this.settings.version, version);
    const next = this.settings.version + 1;
    await this.database.query(
      `INSERT INTO keeping (id, settings, version) VALUES (1, $1, $2)
       ON CONFLICT (id) DO UPDATE SET settings = excluded.settings, version = excluded.version`,
      [JSON.stringify(days), next],
    );
    this.settings = { ...days, version: next };
    return this.view();
  }

  /** Drops all that is too old now; how many entries that were. */
  async drop(): Promise<number> {
    let dropped = 0;
    for (const kind of Object.keys(KEPT_KINDS) as KeptKind[]) {
      const days = this.settings[kind];
      if (days !== undefined) dropped += await this.dropOf(kind, this.clock.nowMs() - days * DAY_MS);
    }
    if (dropped > 0) this.log.warn(`${dropped} entries of the record were dropped, as it is wanted`);
    return dropped;
  }

  private async dropOf(kind: KeptKind, beforeMs: number): Promise<number> {
    // The six characters of the call without SSID, each shifted left by one (AX.25 2.2, "Address field").
    const call = this.operator.view()?.call ?? '';
    const own = Buffer.from(call.padEnd(6), 'latin1').map((octet) => octet << 1);
    for (let dropped = 0; ;) {
      const [, count]: [unknown, number] = await this.database.query(
        `DELETE FROM frames WHERE (id, heard_at) IN (
           SELECT id, heard_at FROM frames
           WHERE heard_at < $1 AND direction = 'heard' AND ${OF_KIND[kind]} AND substring(raw FROM 8 FOR 6) <> $2
             AND (line IS NULL OR line NOT LIKE $3) LIMIT $4)`,
        [new Date(beforeMs).toISOString(), Buffer.from(own), `${call}%`, AT_ONCE],
      );
      dropped += count;
      if (count < AT_ONCE) return dropped;
    }
  }

  private lookAfter(ms: number): void {
    this.cancel = this.clock.after(ms, () => {
      void this.drop()
        .catch((error: unknown) => this.log.error(error))
        .then(() => this.lookAfter(LOOK_EVERY_MS));
    });
  }
}
