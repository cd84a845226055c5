import { Injectable } from '@nestjs/common';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex, toLatin1 } from '@mistpeak/core/bits/octets';
import type { RelayEvidence, TallyEvidence } from '@mistpeak/core/drills/exercises';
import type { Outgoing } from '@mistpeak/core/messages/entries';
import type { MailRow } from '@mistpeak/contract/mail';
import type { MailRunView } from '@mistpeak/contract/mail-session';
import { DataSource } from 'typeorm';

const textOf = (hex: string): string => {
  const octets = fromHex(hex);
  return isMalformed(octets) ? '' : toLatin1(octets);
};

/** What the record holds of what was done since something was begun. */
@Injectable()
export class PracticeEvidence {
  constructor(private readonly database: DataSource) {}

  /** Frames of ours that left. */
  async packetsSince(sinceMs: number): Promise<number> {
    const [row] = await this.since<{ count: number }>(
      `SELECT count(*)::int AS count FROM frames WHERE heard_at >= $1 AND direction = 'sent'`,
      sinceMs,
    );
    return row?.count ?? 0;
  }

  /** The call that beaconed last. */
  async beaconingCall(): Promise<string | undefined> {
    const rows: { source: string }[] = await this.database.query(
      `SELECT source FROM transmission WHERE purpose = 'beacon' ORDER BY queued_at DESC LIMIT 1`,
    );
    return rows[0]?.source;
  }

  /** Of the first mail profile that calls any, in the order in which they are called. */
  async gateways(): Promise<readonly string[]> {
    const [row]: { settings: { profiles: { gateways: { call: string }[] }[] } | null }[] =
      await this.database.query('SELECT settings FROM mail');
    const profile = row?.settings?.profiles.find(({ gateways }) => gateways.length > 0);
    return profile?.gateways.map(({ call }) => call) ?? [];
  }

  async ofTally(sinceMs: number): Promise<TallyEvidence> {
    const written = await this.since<{ row: MailRow; mid: string }>(
      'SELECT row, mid FROM mail_message WHERE is_ours AND at >= $1',
      sinceMs,
    );
    const runs = await this.since<{ view: MailRunView }>(
      'SELECT view FROM mail_run WHERE started_at >= $1',
      sinceMs,
    );
    const subjects = new Map(written.map(({ mid, row }) => [mid, row.subject]));
    return {
      written: written.map(({ row }) => ({ subject: row.subject, to: row.to })),
      runs: runs.map(({ view }) => ({
        attempts: view.attempts.map(({ gateway, result }) => ({ gateway, isDone: result === 'done' })),
        takenSubjects: view.out
          .filter(({ state }) => state === 'taken')
          .flatMap(({ mid }) => subjects.get(mid) ?? []),
      })),
    };
  }

  async ofRelay(sinceMs: number): Promise<RelayEvidence> {
    const received = await this.since<{ entry: { from: string; textHex: string } }>(
      'SELECT entry FROM message_received WHERE at >= $1',
      sinceMs,
    );
    const sent = await this.since<{ entry: Outgoing }>(
      'SELECT entry FROM message_outgoing WHERE at >= $1',
      sinceMs,
    );
    return {
      received: received.map(({ entry }) => ({ from: entry.from, text: textOf(entry.textHex) })),
      sent: sent.map(({ entry: { to, text, phase } }) => ({
        to,
        text,
        isAcknowledged: phase.kind === 'acknowledged',
      })),
    };
  }

  private since<Row>(query: string, sinceMs: number): Promise<Row[]> {
    return this.database.query(query, [new Date(sinceMs).toISOString()]);
  }
}
