import { isSuccess, trialTag, type Trial } from '@mistpeak/core/chain/record';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex, shownText, toLatin1 } from '@mistpeak/core/bits/octets';
import type { Entry, EntryKind } from '@mistpeak/core/logbook/entry';
import { inWords, type Difference } from '@mistpeak/core/logbook/moment';
import type { Outgoing, Received } from '@mistpeak/core/messages/entries';
import type { BatteryReading } from '@mistpeak/core/power/readings';
import { PURPOSES } from '@mistpeak/core/proof/ladder';
import { dutyWords, type DutyEntry } from '@mistpeak/core/watch/duty-log';
import type { NewReport } from '@mistpeak/contract/gateways';
import type { MailRunView } from '@mistpeak/contract/mail-session';
import type { SessionView } from '@mistpeak/contract/sessions';

const MINUTE_MS = 60_000;
const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** `under a minute`, `47 min`, `3.5 h`. */
function spanWords(ms: number): string {
  if (ms < MINUTE_MS) return 'under a minute';
  return ms < 120 * MINUTE_MS ? `${Math.round(ms / MINUTE_MS)} min` : `${(ms / 60 / MINUTE_MS).toFixed(1)} h`;
}

/** Of one change more differences than these are counted. */
const SHOWN_DIFFERENCES = 6;

const textOf = (hex: string): string => {
  const octets = fromHex(hex);
  return isMalformed(octets) ? '' : shownText(toLatin1(octets));
};

/**
 * One table of which entries are made. select: at the time $1 and before, newest first, at most $2; every row has `id` and `at`,
 * and of equal times all come.
 */
export interface EntrySource {
  readonly kind: EntryKind;
  readonly select: string;
  readonly entryOf: (row: never) => Omit<Entry, 'kind' | 'id' | 'atMs'>;
}

interface DutyRow extends Pick<DutyEntry, 'kind' | 'words'> {
  readonly call: string | null;
  readonly label: string | null;
  readonly need: DutyEntry['need'] | null;
}

interface TrialRow extends Omit<Trial, 'id' | 'atMs' | 'levelDbfs'> {
  readonly level_dbfs: number | null;
}

const newest = (columns: string, table: string, at = 'at', where = 'true'): string =>
  `SELECT id::text AS id, ${at} AS at, ${columns} FROM ${table} WHERE ${at} <= $1 AND ${where} ORDER BY ${at} DESC, id DESC LIMIT $2`;

const source = <Row>(
  kind: EntryKind,
  select: string,
  entryOf: (row: Row) => Omit<Entry, 'kind' | 'id' | 'atMs'>,
): EntrySource => ({ kind, select, entryOf: entryOf });

export const SOURCES: readonly EntrySource[] = [
  source<TrialRow>(
    'trial',
    newest('purpose, items, antenna, result, trick, level_dbfs, note', 'trial'),
    ({ purpose, items, antenna, result, trick, level_dbfs, note }) => ({
      ok: isSuccess({ result }),
      what: `${PURPOSES[purpose].name}: ${result}`,
      words: [
        items.map(({ name, version }) => (version ? `${name} (${version})` : name)).join(' – '),
        antenna && `antenna: ${antenna}`,
        level_dbfs !== null && `${level_dbfs} dBFS RMS`,
        trick && `trick: ${trick}`,
        note,
      ]
        .filter(Boolean)
        .join('; '),
      tag: trialTag(purpose, items),
    }),
  ),
  source<{ check_kind: string; words: string; number: string; is_in_window: boolean | null }>(
    'check',
    newest('check_kind, words, number, is_in_window', 'level_result'),
    ({ check_kind, words, number, is_in_window }) => ({
      what: `Levels: ${check_kind}`,
      words,
      ...(is_in_window === null ? {} : { ok: is_in_window }),
      ...(number === '' ? {} : { tag: number }),
    }),
  ),
  source<{ rung: string; words: string }>('proof', newest('rung, words', 'evidence'), ({ rung, words }) => ({
    ok: true,
    what: `Proved: ${rung}`,
    words,
  })),
  source<{ source: string; sent: number; back: number; air: number; lasted_ms: number }>(
    'beacon',
    // One line for each run, which ends where a station was silent for over an hour: what is to be known is how much came back.
    `WITH beacon AS (
       SELECT *, (handed_at - lag(handed_at) OVER by_station <= interval '1 hour') IS NOT TRUE AS begins
       FROM transmission WHERE purpose = 'beacon' AND state = 'handed' AND handed_at IS NOT NULL
       WINDOW by_station AS (PARTITION BY source ORDER BY handed_at, id)
     ), in_run AS (
       SELECT *, count(*) FILTER (WHERE begins) OVER (PARTITION BY source ORDER BY handed_at, id) AS run FROM beacon
     )
     SELECT min(id::text) AS id, max(handed_at) AS at, source, count(*)::int AS sent, sum(air_time_ms) AS air,
       count(*) FILTER (WHERE jsonb_array_length(echoes) > 0)::int AS back,
       (extract(epoch FROM max(handed_at) - min(handed_at)) * 1000)::float AS lasted_ms
     FROM in_run GROUP BY source, run HAVING max(handed_at) <= $1
     ORDER BY at DESC, id DESC LIMIT $2`,
    ({ source: call, sent, back, air, lasted_ms }) => ({
      ok: back > 0,
      what: `${call}: ${sent === 1 ? 'one beacon' : `${sent} beacons in ${spanWords(lasted_ms)}`}`,
      words: `${back} came back from a digipeater, ${(air / 1000).toFixed(1)} s on the air`,
    }),
  ),
  source<{ view: SessionView }>(
    'session',
    newest('view', 'session', 'opened_at', "ended_at IS NOT NULL AND view->>'purpose' <> 'mail'"),
    ({ view: { peer, own, calledBy, connectedAtMs, outcome = '', heardOctets, confirmedOctets } }) => ({
      ok: connectedAtMs !== undefined,
      what: calledBy === 'us' ? `${own} called ${peer}` : `${peer} called ${own}`,
      words: [
        outcome,
        connectedAtMs !== undefined && `${heardOctets} octets heard, ${confirmedOctets} confirmed`,
      ]
        .filter(Boolean)
        .join('; '),
    }),
  ),
  source<{ view: MailRunView }>(
    'mail',
    newest('view', 'mail_run', 'started_at', 'ended_at IS NOT NULL'),
    ({ view: { profile, attempts, outcome, out, in: came } }) => ({
      ok: outcome?.ok === true,
      what: `Mail: ${profile}`,
      words: [
        attempts
          .map(({ gateway, result }) => `${gateway}: ${result === 'done' ? 'well' : result}`)
          .join(', '),
        `${out.filter(({ state }) => state === 'taken').length} sent, ${came.filter(({ state }) => state === 'kept').length} received`,
        outcome?.happened,
      ]
        .filter(Boolean)
        .join('; '),
    }),
  ),
  source<{ report: NewReport }>('gateway', newest('report', 'gateway_report'), ({ report }) => ({
    ok: report.answered,
    what: report.call,
    words: `${report.answered ? 'answered' : 'was silent'}${report.reporter ? `, told by ${report.reporter}` : ''}`,
  })),
  source<{ entry: Outgoing }>('message', newest('entry', 'message_outgoing'), ({ entry }) => {
    const { from, to, text, number, phase, tries } = entry;
    const ended = phase.kind === 'acknowledged' || phase.kind === 'rejected' || phase.kind === 'no answer';
    return {
      what: `${from} to ${to}`,
      words: `${text} (${phase.kind}, ${tries.length} ${tries.length === 1 ? 'try' : 'tries'})`,
      ...(ended ? { ok: phase.kind === 'acknowledged' } : {}),
      ...(number === undefined ? {} : { tag: number }),
    };
  }),
  source<{ entry: Omit<Received, 'text'> & { textHex: string } }>(
    'message',
    newest('entry', 'message_received'),
    ({ entry: { from, to, textHex, number } }) => ({
      what: `${from} to ${to}`,
      words: textOf(textHex),
      ...(number === undefined ? {} : { tag: number }),
    }),
  ),
  source<DutyRow>(
    'alarm',
    newest('kind, call, label, need, words', 'duty_entry'),
    ({ kind, call, label, need, words }) => ({
      what: capital(dutyWords({ kind, need, words: '' })),
      words: [[call, label].filter(Boolean).join(', '), words].filter(Boolean).join(': '),
    }),
  ),
  source<{ reading: BatteryReading & { note: string } }>(
    'battery',
    newest('reading', 'battery_reading'),
    ({ reading: { kind, volts, restedHours, takenAh, note } }) => ({
      what: 'Battery',
      words: [
        kind,
        volts !== undefined && `${volts} V after ${restedHours} h of rest`,
        takenAh !== undefined && `${takenAh} Ah taken`,
        note,
      ]
        .filter(Boolean)
        .join(', '),
    }),
  ),
  source<{ changes: readonly Difference[] }>(
    'change',
    newest('changes', 'moment', 'at', 'jsonb_array_length(changes) > 0'),
    ({ changes }) => ({
      what: 'Changed',
      words: [
        ...changes.slice(0, SHOWN_DIFFERENCES).map(inWords),
        ...(changes.length > SHOWN_DIFFERENCES ? [`and ${changes.length - SHOWN_DIFFERENCES} more`] : []),
      ].join('; '),
    }),
  ),
  source<{ words: string; has_picture: boolean }>(
    'note',
    newest('words, picture IS NOT NULL AS has_picture', 'logbook_note'),
    ({ words, has_picture }) => ({ what: 'Note', words, ...(has_picture ? { hasPicture: true } : {}) }),
  ),
];
