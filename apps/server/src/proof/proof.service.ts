import { randomUUID } from 'node:crypto';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { toHex } from '@mistpeak/core/bits/octets';
import type { Evidence, Rung } from '@mistpeak/core/proof/evidence';
import type { EvidenceView } from '@mistpeak/contract/proof';
import { DeferredWrites } from '../database/deferred-writes.js';
import { LiveService } from '../live/live.service.js';
import { EvidenceEntity } from './evidence.entity.js';

/** What lit a rung just now. */
export interface NewEvidence extends Omit<Evidence, 'id' | 'rawHex'> {
  readonly raw?: Uint8Array;
}

const KEPT_PER_RUNG = 5;
/** Every frame proves these again; once a minute is enough for what fades in ten. */
const OFTEN: readonly Rung[] = ['TNC talks', 'packet decoded'];
const OFTEN_EVERY_MS = 60_000;

/** The evidence of every link: recorded as it comes, never changed, shown as far as a climb needs it. */
@Injectable()
export class ProofService implements OnModuleInit {
  private recent: EvidenceView[] = [];

  constructor(
    @InjectRepository(EvidenceEntity) private readonly rows: Repository<EvidenceEntity>,
    private readonly live: LiveService,
    private readonly deferred: DeferredWrites,
  ) {}

  async onModuleInit(): Promise<void> {
    const rows: EvidenceEntity[] = await this.rows.query(
      `SELECT id, link_id AS "linkId", rung, at, kind, raw, words
       FROM (SELECT *, row_number() OVER (PARTITION BY link_id, rung ORDER BY at DESC) AS place FROM evidence) AS placed
       WHERE place <= $1 ORDER BY at`,
      [KEPT_PER_RUNG],
    );
    this.recent = rows.map(viewOf);
    this.live.contribute('evidence', () => this.recent);
  }

  async record({ linkId, rung, atMs, kind, words, raw }: NewEvidence): Promise<void> {
    if (OFTEN.includes(rung) && atMs - this.lastAtMs(linkId, rung) < OFTEN_EVERY_MS) return;
    const id = randomUUID();
    const view: EvidenceView = {
      id,
      linkId,
      rung,
      atMs,
      kind,
      words,
      ...(raw ? { rawHex: toHex(raw) } : {}),
    };
    const same = this.recent.filter((one) => one.linkId === linkId && one.rung === rung);
    const dropped = same.length >= KEPT_PER_RUNG ? same[0] : undefined;
    this.recent = [...this.recent.filter((one) => one !== dropped), view];
    this.live.publish({ kind: 'evidence', data: view });
    const row = { id, linkId, rung, at: new Date(atMs), kind, words, raw: raw ? Buffer.from(raw) : null };
    await this.deferred.write(() => this.rows.insert(row));
  }

  private lastAtMs(linkId: string, rung: Rung): number {
    return this.recent.findLast((one) => one.linkId === linkId && one.rung === rung)?.atMs ?? -Infinity;
  }
}

function viewOf({ id, linkId, rung, at, kind, words, raw }: EvidenceEntity): EvidenceView {
  return {
    id,
    linkId,
    rung: rung as Rung,
    atMs: at.getTime(),
    kind: kind as EvidenceView['kind'],
    words,
    ...(raw ? { rawHex: raw.toString('hex') } : {}),
  };
}
