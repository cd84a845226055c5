import { Inject, Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { formatAdif, type Contact } from '@mistpeak/core/adif/adif';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parsePlace } from '@mistpeak/core/geo/place';
import { isOnTrip, type TripCall } from '@mistpeak/core/logbook/trip';
import type { NewNote, TripRecord, TripSettings, TripView } from '@mistpeak/contract/logbook';
import type { MailRunView } from '@mistpeak/contract/mail-session';
import type { SessionView } from '@mistpeak/contract/sessions';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { GatewaysService } from '../gateways/gateways.service.js';
import { LiveService } from '../live/live.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { RemovalsService } from '../removals/removals.service.js';
import { entryKey, StreamService } from './stream.service.js';

const MOST_ENTRIES = 2000;
const MOST_CONTACTS = 10_000;

/** Notes of the operator, trips, and contacts for other programs. */
@Injectable()
export class LogbookService implements OnApplicationBootstrap {
  private trips: readonly TripView[] = [];
  private revision = 0;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly gateways: GatewaysService,
    private readonly live: LiveService,
    private readonly removals: RemovalsService,
    private readonly stream: StreamService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('trips', () => this.trips);
    this.live.contribute('logbookRevision', () => this.revision);
    this.trips = await this.readTrips();
  }

  async note(id: string, { words, pictureBase64 }: NewNote): Promise<void> {
    const picture = pictureBase64 === undefined ? null : Buffer.from(pictureBase64, 'base64');
    if (picture && typeOf(picture) === undefined)
      throw new ProblemException('field-refused', { pictureBase64: 'a JPEG, PNG or WebP picture' });
    await this.database.query(
      'INSERT INTO logbook_note (id, at, words, picture) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING',
      [id, new Date(this.clock.nowMs()).toISOString(), words, picture],
    );
    this.tell();
  }

  async picture(id: string): Promise<{ octets: Buffer; type: string }> {
    const [row]: { picture: Buffer | null }[] = await this.database.query(
      'SELECT picture FROM logbook_note WHERE id = $1',
      [id],
    );
    const type = row?.picture ? typeOf(row.picture) : undefined;
    if (!row?.picture || type === undefined) throw new ProblemException('not-found');
    return { octets: row.picture, type };
  }

  async removeNote(id: string): Promise<void> {
    const [row]: { words: string }[] = await this.database.query(
      'SELECT words FROM logbook_note WHERE id = $1',
      [id],
    );
    if (!row) return;
    await this.removals.remove({
      key: entryKey(id),
      words: `the note “${row.words.slice(0, 40)}”`,
      changed: () => this.tell(),
      finish: async () => void (await this.database.query('DELETE FROM logbook_note WHERE id = $1', [id])),
    });
  }

  async saveTrip(id: string, { version, ...settings }: TripSettings): Promise<TripView> {
    if (settings.toMs !== undefined && settings.toMs < settings.fromMs)
      throw new ProblemException('field-refused', { toMs: 'it cannot end before it begins' });
    const known = this.trips.find((trip) => trip.id === id);
    if (known) refuseIfChanged(known.version, version);
    const next = (known?.version ?? 0) + 1;
    await this.database.query(
      `INSERT INTO trip (id, settings, version) VALUES ($1, $2, $3)
       ON CONFLICT (id) DO UPDATE SET settings = excluded.settings, version = excluded.version`,
      [id, JSON.stringify(settings), next],
    );
    await this.publishTrips();
    return this.trip(id);
  }

  async removeTrip(id: string): Promise<void> {
    const trip = this.trips.find((one) => one.id === id);
    if (!trip) return;
    await this.removals.remove({
      key: tripKey(id),
      words: `the trip ${trip.name}`,
      changed: () => this.publishTrips(),
      finish: async () => void (await this.database.query('DELETE FROM trip WHERE id = $1', [id])),
    });
  }

  /** What happened on it, who was called, where one was, who was heard. */
  async record(id: string): Promise<TripRecord> {
    const trip = this.trip(id);
    const toMs = trip.toMs ?? this.clock.nowMs();
    const attempts = await this.gateways.attempts();
    const calls = attempts.filter(
      ({ atMs, reporter }) => reporter === undefined && isOnTrip(trip, atMs),
    ) satisfies TripCall[];
    const span = [new Date(trip.fromMs).toISOString(), new Date(toMs).toISOString()];
    const visited: { name: string; place: string }[] = await this.database.query(
      `SELECT DISTINCT name, place FROM place_visit JOIN place_label ON place_label.id = place_id
       WHERE since <= $2 AND coalesce(until, $2) >= $1 ORDER BY name`,
      span,
    );
    const [heard]: { stations: number; packets: number }[] = await this.database.query(
      `SELECT count(DISTINCT name)::int AS stations, count(*)::int AS packets FROM position
       WHERE heard_at >= $1 AND heard_at <= $2 AND NOT by_internet`,
      span,
    );
    return {
      trip,
      entries: await this.stream.within(trip.fromMs, toMs, MOST_ENTRIES),
      calls,
      places: visited.flatMap(({ name, place }) => {
        const position = parsePlace(place);
        return isMalformed(position) ? [] : [{ name, position }];
      }),
      heard: heard ?? { stations: 0, packets: 0 },
    };
  }

  /** Everybody with whom one was connected, as ADIF. */
  async adif(): Promise<string> {
    const sessions: { view: SessionView }[] = await this.database.query(
      `SELECT view FROM session WHERE view ? 'connectedAtMs' AND view->>'purpose' <> 'mail'
       ORDER BY opened_at DESC LIMIT $1`,
      [MOST_CONTACTS],
    );
    const runs: { view: MailRunView; own: string }[] = await this.database.query(
      'SELECT view FROM mail_run ORDER BY started_at DESC LIMIT $1',
      [MOST_CONTACTS],
    );
    const own = this.live.snapshot().operator?.call ?? '';
    const contacts = [
      ...sessions.map(({ view }) => contactOf(view)),
      ...runs.flatMap(({ view }) => mailContacts(view, own)),
    ].sort((a, b) => a.onMs - b.onMs);
    return formatAdif(contacts);
  }

  private trip(id: string): TripView {
    const trip = this.trips.find((one) => one.id === id);
    if (!trip) throw new ProblemException('not-found');
    return trip;
  }

  private tell(): void {
    this.live.publish({ kind: 'logbook-revision', data: ++this.revision });
  }

  private async publishTrips(): Promise<void> {
    this.trips = await this.readTrips();
    this.live.publish({ kind: 'trips', data: this.trips });
  }

  private async readTrips(): Promise<TripView[]> {
    const rows: { id: string; settings: TripSettings; version: number }[] = await this.database.query(
      "SELECT id, settings, version FROM trip ORDER BY (settings->>'fromMs')::bigint DESC, id",
    );
    return rows
      .filter(({ id }) => !this.removals.isLeaving(tripKey(id)))
      .map(({ id, settings, version }) => ({ ...settings, id, version }));
  }
}

const tripKey = (id: string): string => `trip ${id}`;

const contactOf = ({
  peer,
  own,
  connectedAtMs = 0,
  endedAtMs,
  frequencyMHz,
  outcome,
}: SessionView): Contact => ({
  call: peer,
  stationCall: own,
  onMs: connectedAtMs,
  mode: 'PKT',
  ...(endedAtMs === undefined ? {} : { offMs: endedAtMs }),
  ...(frequencyMHz === undefined ? {} : { frequencyMHz }),
  ...(outcome === undefined ? {} : { comment: outcome }),
});

/** Over the air only: a service by TCP is no contact. */
const mailContacts = ({ way, attempts }: MailRunView, own: string): Contact[] =>
  way === 'tcp'
    ? []
    : attempts.flatMap(({ gateway, connectedAtMs, endedAtMs, frequencyMHz }): Contact[] =>
        connectedAtMs === undefined
          ? []
          : [
              {
                ...{ call: gateway, stationCall: own, onMs: connectedAtMs, comment: 'radio mail' },
                mode: way === 'modem' ? 'DYNAMIC' : 'PKT',
                ...(endedAtMs === undefined ? {} : { offMs: endedAtMs }),
                ...(frequencyMHz === undefined ? {} : { frequencyMHz }),
              },
            ],
      );

/** By its first octets, as their formats define them; anything else is not served as a picture. */
function typeOf(picture: Buffer): string | undefined {
  if (picture.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff]))) return 'image/jpeg';
  if (picture.subarray(0, 8).toString('latin1') === '\x89PNG\r\n\x1a\n') return 'image/png';
  const isWebP = picture.toString('latin1', 0, 4) === 'RIFF' && picture.toString('latin1', 8, 12) === 'WEBP';
  return isWebP ? 'image/webp' : undefined;
}
