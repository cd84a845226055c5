import { Inject, Injectable, type OnModuleInit } from '@nestjs/common';
import { decodeFrame } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { wayOf } from '@mistpeak/core/digipeating/way';
import { parsePlace } from '@mistpeak/core/geo/place';
import { wayTo, type Position } from '@mistpeak/core/geo/position';
import { viewFrame } from '@mistpeak/core/stations/view';
import type { PlaceLabel, PlaceLabelView, PlaceYield } from '@mistpeak/contract/whereabouts';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';
import { RemovalsService } from '../removals/removals.service.js';

const MOST_FRAMES = 50_000;
const HOUR_MS = 3_600_000;

interface VisitRow {
  readonly place_id: string;
  readonly since: Date;
  readonly until: Date | null;
}

/** Places by the operator's own names, when one was there, and what was heard then. */
@Injectable()
export class PlacesService implements OnModuleInit {
  private places: readonly PlaceLabelView[] = [];

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly live: LiveService,
    private readonly removals: RemovalsService,
  ) {}

  async onModuleInit(): Promise<void> {
    this.live.contribute('places', () => this.places);
    this.places = await this.read();
  }

  async save(id: string, { name, place, radiusM }: PlaceLabel): Promise<PlaceLabelView> {
    await this.database.query(
      `INSERT INTO place_label (id, name, place, radius_m) VALUES ($1, $2, $3, $4)
       ON CONFLICT (id) DO UPDATE SET name = excluded.name, place = excluded.place, radius_m = excluded.radius_m`,
      [id, name.trim(), place, radiusM],
    );
    await this.publish();
    return this.of(id);
  }

  async remove(id: string): Promise<void> {
    const place = this.places.find((one) => one.id === id);
    if (!place) return;
    await this.removals.remove({
      key: keyOf(id),
      words: `the place ${place.name}`,
      changed: () => this.publish(),
      finish: async () => void (await this.database.query('DELETE FROM place_label WHERE id = $1', [id])),
    });
  }

  /** One is at one place at most: whoever comes here has left the last. here: whether, or no more. */
  async visit(id: string, here: boolean, visitId: string): Promise<PlaceLabelView> {
    const place = this.of(id);
    if (here && place.isHere) return place;
    const now = new Date(this.clock.nowMs()).toISOString();
    await this.database.transaction(async (manager) => {
      await manager.query('UPDATE place_visit SET until = $1 WHERE until IS NULL', [now]);
      if (here)
        await manager.query(
          'INSERT INTO place_visit (id, place_id, since) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING',
          [visitId, id, now],
        );
    });
    await this.publish();
    return this.of(id);
  }

  /** What was heard while one was at each place. */
  async yields(): Promise<PlaceYield[]> {
    const visits: VisitRow[] = await this.database.query(
      'SELECT place_id, since, until FROM place_visit ORDER BY since',
    );
    return Promise.all(
      this.places.map(({ id, place }) =>
        this.yieldOf(
          id,
          place,
          visits.filter(({ place_id }) => place_id === id),
        ),
      ),
    );
  }

  private async yieldOf(id: string, place: string, visits: readonly VisitRow[]): Promise<PlaceYield> {
    const here = parsePlace(place);
    const heard = new Set<string>();
    let farthest: { call: string; km: number } | undefined;
    let [hours, packets] = [0, 0];
    for (const { since, until } of visits) {
      const end = until ?? new Date(this.clock.nowMs());
      hours += (end.getTime() - since.getTime()) / HOUR_MS;
      const rows: { raw: Buffer }[] = await this.database.query(
        `SELECT raw FROM frames WHERE heard_at >= $1 AND heard_at < $2 AND direction = 'heard' AND origin <> 'internet'
         AND line IS NULL AND length(raw) > 15 LIMIT $3`,
        [since.toISOString(), end.toISOString(), MOST_FRAMES],
      );
      for (const { raw } of rows) {
        const direct = directOf(raw);
        if (!direct) continue;
        packets++;
        heard.add(direct.call);
        if (!direct.position || isMalformed(here)) continue;
        const km = wayTo(here, direct.position).distanceKm;
        if (direct.isDirect && km > (farthest?.km ?? 0)) farthest = { call: direct.call, km };
      }
    }
    return { id, hours, packets, stations: heard.size, ...(farthest ? { farthest } : {}) };
  }

  private of(id: string): PlaceLabelView {
    const place = this.places.find((one) => one.id === id);
    if (!place) throw new ProblemException('not-found');
    return place;
  }

  private async publish(): Promise<void> {
    this.places = await this.read();
    this.live.publish({ kind: 'places', data: this.places });
  }

  private async read(): Promise<PlaceLabelView[]> {
    const rows: (PlaceLabelView & { readonly id: string })[] = await this.database.query(
      `SELECT l.id, l.name, l.place, l.radius_m AS "radiusM",
         EXISTS (SELECT 1 FROM place_visit v WHERE v.place_id = l.id AND v.until IS NULL) AS "isHere"
       FROM place_label l ORDER BY l.name, l.id`,
    );
    return rows.filter(({ id }) => !this.removals.isLeaving(keyOf(id)));
  }
}

const keyOf = (id: string): string => `place ${id}`;

/** Who sent a frame, where it says that it is, and whether it came straight from there. */
function directOf(raw: Buffer): { call: string; position?: Position; isDirect: boolean } | undefined {
  const frame = decodeFrame(raw);
  if (isMalformed(frame)) return undefined;
  const view = viewFrame(raw);
  const report = isMalformed(view) ? undefined : view.report;
  const isOwnPlace =
    report?.latitudeDeg !== undefined &&
    report.longitudeDeg !== undefined &&
    !report.object &&
    !report.thirdParty;
  return {
    call: frame.source,
    isDirect: wayOf(frame.path).hops === 0,
    ...(isOwnPlace
      ? {
          position: {
            latitudeDeg: report.latitudeDeg as number,
            longitudeDeg: report.longitudeDeg as number,
          },
        }
      : {}),
  };
}
