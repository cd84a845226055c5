import { randomUUID } from 'node:crypto';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { toHex } from '@mistpeak/core/bits/octets';
import type { Evidence, Rung } from '@mistpeak/core/proof/evidence';
import type { EvidenceView } from '@mistpeak/contract/proof';
import { DeferredWrites } from '../database/deferred-writes.js';
import { LiveService } from '../live/live.service.js';
import { TrafficService, type Passing } from '../traffic/traffic.service.js';
import { EvidenceEntity } from './evidence.entity.js';

/** What lit a rung just now. */
export interface NewEvidence extends Omit<Evidence, 'id' | 'rawHex'> {
  readonly raw?: Uint8Array;
  /** One of many alike: once a minute is enough of it. */
  readonly isRoutine?: boolean;
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
    private readonly traffic: TrafficService,
  ) {}

  async onModuleInit(): Promise<void> {
    const rows: EvidenceEntity[] = await this.rows.query(
      `SELECT id, link_id AS "linkId", chain_id AS "chainId", rung, at, kind, raw, words
       FROM (SELECT *, row_number() OVER (PARTITION BY coalesce(link_id, chain_id), rung ORDER BY at DESC) AS place FROM evidence) AS placed
       WHERE place <= $1 ORDER BY at`,
      [KEPT_PER_RUNG],
    );
    this.recent = rows.map(viewOf);
    this.live.contribute('evidence', () => this.recent);
    this.traffic.take('proof', {
      heard: (frame) => this.hear(frame),
      standIn: (linkId, atMs) => this.proveTalking(linkId, atMs, 'the far end says that it is a stand-in'),
    });
  }

  /** A capture proves nothing: nobody knows with what it was heard. */
  private hear({ linkId, atMs, raw, view, origin }: Passing): void {
    if (!view || origin === 'capture' || origin === 'internet') return;
    this.proveTalking(linkId, atMs, 'a KISS frame with a packet arrived');
    const words = `${view.frame.source} heard`;
    void this.record({ linkId, rung: 'packet decoded', atMs, kind: 'frame', words, raw });
  }

  /** A KISS frame that holds a packet, or the stand-in's own word; noise may look like a bare KISS frame. */
  private proveTalking(linkId: string, atMs: number, words: string): void {
    void this.record({ linkId, rung: 'TNC talks', atMs, kind: 'link', words });
  }

  async record(evidence: NewEvidence): Promise<void> {
    const { linkId, chainId, rung, atMs, kind, words, raw, isRoutine = OFTEN.includes(rung) } = evidence;
    const place = { ...(linkId ? { linkId } : {}), ...(chainId ? { chainId } : {}) };
    const same = this.recent.filter((one) => isOf(one, place) && one.rung === rung);
    if (kind !== 'tick' && isRoutine && Math.abs(atMs - this.lastOfThisOpening(same, place)) < OFTEN_EVERY_MS)
      return;
    const id = randomUUID();
    const view: EvidenceView = {
      id,
      ...place,
      rung,
      atMs,
      kind,
      words,
      ...(raw ? { rawHex: toHex(raw) } : {}),
    };
    const dropped = same.length >= KEPT_PER_RUNG ? same[0] : undefined;
    this.recent = [...this.recent.filter((one) => one !== dropped), view];
    this.live.publish({ kind: 'evidence', data: view });
    await this.deferred.write(
      `INSERT INTO evidence (id, link_id, chain_id, rung, at, kind, words, raw)
       VALUES ($1, $2, $3, $4, $5, $6, $7, decode($8, 'hex')) ON CONFLICT DO NOTHING`,
      [
        id,
        linkId ?? null,
        chainId ?? null,
        rung,
        new Date(atMs).toISOString(),
        kind,
        words,
        raw ? toHex(raw) : null,
      ],
    );
  }

  /** When it was last proved, unless the link was opened anew since: what was before proves nothing of now. */
  private lastOfThisOpening(
    same: readonly EvidenceView[],
    place: Pick<EvidenceView, 'linkId' | 'chainId'>,
  ): number {
    const opened =
      this.recent.findLast((one) => isOf(one, place) && one.rung === 'port open')?.atMs ?? -Infinity;
    const lastMs = same.at(-1)?.atMs ?? -Infinity;
    return lastMs < opened ? -Infinity : lastMs;
  }
}

/** Of the same link, or of the same chain where there is none. */
const isOf = (one: EvidenceView, { linkId, chainId }: Pick<EvidenceView, 'linkId' | 'chainId'>): boolean =>
  one.linkId === linkId && one.chainId === chainId;

function viewOf({ id, linkId, chainId, rung, at, kind, words, raw }: EvidenceEntity): EvidenceView {
  return {
    id,
    ...(linkId ? { linkId } : {}),
    ...(chainId ? { chainId } : {}),
    rung: rung as Rung,
    atMs: at.getTime(),
    kind: kind as EvidenceView['kind'],
    words,
    ...(raw ? { rawHex: raw.toString('hex') } : {}),
  };
}
