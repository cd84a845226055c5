import { Injectable } from '@nestjs/common';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { facilityKey, type Facility } from '@mistpeak/core/gateways/facility';
import { parsePlace } from '@mistpeak/core/geo/place';
import type { AttemptView, ConflictView, ListMapping, NewReport } from '@mistpeak/contract/gateways';
import type { MailRunView } from '@mistpeak/contract/mail-session';
import type { SessionView } from '@mistpeak/contract/sessions';
import { DataSource } from 'typeorm';

/** Of which every attempt is read again when it is asked for. */
const MOST_RUNS = 2000;
/** Whoever could not call at all learnt nothing of the gateway. */
const NOT_CALLED = new Set(['under way', 'not tuned', 'busy channel', 'demo call', 'locked', 'no way']);

/** The directory in the database. */
@Injectable()
export class GatewaysStore {
  constructor(private readonly database: DataSource) {}

  async facilities(): Promise<Facility[]> {
    const rows: { facility: Facility }[] = await this.database.query(
      'SELECT facility FROM facility ORDER BY key',
    );
    return rows.map(({ facility }) => facility);
  }

  /** All of them or none; a list of 20,000 is one statement. */
  async keep(facilities: readonly Facility[], gone: readonly string[] = []): Promise<void> {
    await this.database.transaction(async (manager) => {
      if (gone.length > 0) await manager.query('DELETE FROM facility WHERE key = ANY($1)', [gone]);
      await manager.query(
        `INSERT INTO facility (key, facility)
         SELECT one->>'key', one->'facility' FROM jsonb_array_elements($1::jsonb) AS one
         ON CONFLICT (key) DO UPDATE SET facility = excluded.facility`,
        [JSON.stringify(facilities.map((facility) => ({ key: facilityKey(facility), facility })))],
      );
    });
  }

  async conflicts(): Promise<ConflictView[]> {
    const rows: { conflict: ConflictView }[] = await this.database.query(
      'SELECT conflict FROM facility_conflict WHERE NOT is_decided ORDER BY id',
    );
    return rows.map(({ conflict }) => conflict);
  }

  /** One that was decided is not asked about again when the same list comes again. */
  async keepConflicts(conflicts: readonly ConflictView[]): Promise<void> {
    await this.database.query(
      `INSERT INTO facility_conflict (id, conflict)
       SELECT one->>'id', one FROM jsonb_array_elements($1::jsonb) AS one ON CONFLICT (id) DO NOTHING`,
      [JSON.stringify(conflicts)],
    );
  }

  async decided(id: string): Promise<void> {
    await this.database.query('UPDATE facility_conflict SET is_decided = true WHERE id = $1', [id]);
  }

  async forgetConflictsOf(key: string): Promise<void> {
    await this.database.query("DELETE FROM facility_conflict WHERE conflict->>'key' = $1", [key]);
  }

  async mappings(): Promise<Record<string, ListMapping>> {
    const rows: { columns: string; mapping: ListMapping }[] = await this.database.query(
      'SELECT columns, mapping FROM list_mapping',
    );
    return Object.fromEntries(rows.map(({ columns, mapping }) => [columns, mapping]));
  }

  async keepMapping(columns: string, mapping: ListMapping): Promise<void> {
    await this.database.query(
      `INSERT INTO list_mapping (columns, mapping) VALUES ($1, $2)
       ON CONFLICT (columns) DO UPDATE SET mapping = excluded.mapping`,
      [columns, JSON.stringify(mapping)],
    );
  }

  async report(id: string, report: NewReport): Promise<void> {
    await this.database.query(
      'INSERT INTO gateway_report (id, at, report) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING',
      [id, new Date(report.atMs).toISOString(), JSON.stringify(report)],
    );
  }

  /** Calls of mail and of the terminal, and what was told by hand; newest first. */
  async attempts(): Promise<AttemptView[]> {
    const runs: { attempt: MailRunView['attempts'][number] }[] = await this.database.query(
      `SELECT jsonb_array_elements(view->'attempts') AS attempt FROM
         (SELECT view FROM mail_run WHERE view->>'calledBy' = 'us' ORDER BY started_at DESC LIMIT $1) AS newest`,
      [MOST_RUNS],
    );
    const sessions: { view: SessionView }[] = await this.database.query(
      `SELECT view FROM session WHERE ended_at IS NOT NULL AND view->>'calledBy' = 'us'
       AND view->>'purpose' <> 'mail' ORDER BY opened_at DESC LIMIT $1`,
      [MOST_RUNS],
    );
    const reports: { report: NewReport }[] = await this.database.query(
      'SELECT report FROM gateway_report ORDER BY at DESC LIMIT $1',
      [MOST_RUNS],
    );
    return [
      ...runs
        .map(({ attempt }) => attempt)
        .filter(({ result }) => !NOT_CALLED.has(result))
        .map(byMail),
      ...sessions.map(({ view }) => byTerminal(view)),
      ...reports.map(({ report }) => byHand(report)),
    ].sort((a, b) => b.atMs - a.atMs);
  }
}

/** It answered where it took the call, whatever came of the session. */
function byMail({
  gateway,
  atMs,
  connectedAtMs,
  place,
  words,
}: MailRunView['attempts'][number]): AttemptView {
  const from = parsePlace(place);
  return {
    call: gateway,
    atMs,
    answered: connectedAtMs !== undefined,
    words,
    ...(isMalformed(from) ? {} : { from }),
  };
}

const byTerminal = ({ peer, openedAtMs, connectedAtMs, outcome = '' }: SessionView): AttemptView => ({
  call: peer,
  atMs: openedAtMs,
  answered: connectedAtMs !== undefined,
  words: outcome,
});

const byHand = ({ call, atMs, answered, reporter, from }: NewReport): AttemptView => ({
  call,
  atMs,
  answered,
  words: reporter === '' ? 'told by hand' : `told by ${reporter}`,
  ...(from ? { from } : {}),
  ...(reporter === '' ? {} : { reporter }),
});
