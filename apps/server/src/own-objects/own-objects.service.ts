import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { uiFrame } from '@mistpeak/core/ax25/frame';
import { OWN_DESTINATION } from '@mistpeak/core/beacon/beacon';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromLatin1, shownText } from '@mistpeak/core/bits/octets';
import { formatCallSign } from '@mistpeak/core/callsign/callsign';
import { parsePath } from '@mistpeak/core/digipeating/alias';
import { parsePlace } from '@mistpeak/core/geo/place';
import type { Position } from '@mistpeak/core/geo/position';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import {
  objectInfo,
  ownObjectStep,
  type OwnObject,
  type OwnObjectContext,
  type OwnObjectEffect,
  type OwnObjectEvent,
} from '@mistpeak/core/own-objects/own-object';
import { hasNameOfKind, type OwnObjectSettings, type OwnObjectView } from '@mistpeak/contract/own-objects';
import type { Clock } from '@mistpeak/link/clock';
import { DataSource } from 'typeorm';
import { CLOCK } from '../adapters/system-clock.js';
import { DeferredWrites } from '../database/deferred-writes.js';
import { LinksService } from '../links/links.service.js';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { TrafficService, type Passing } from '../traffic/traffic.service.js';
import { LockService } from '../transmitting/lock.service.js';
import { TransmittingService } from '../transmitting/transmitting.service.js';

const MINUTE_MS = 60_000;
/** What did not leave in this time is told anew. */
const LEAVE_WITHIN_MS = 60_000;

interface Kept {
  settings: OwnObjectSettings & { readonly version: number };
  readonly machine: Driven<OwnObject, OwnObjectEvent>;
}

/** What we have put on the map for others: told behind the lock, by core's machine, until it is gone or another has taken it over. */
@Injectable()
export class OwnObjectsService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly objects = new Map<string, Kept>();

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly database: DataSource,
    private readonly deferred: DeferredWrites,
    private readonly links: LinksService,
    private readonly live: LiveService,
    private readonly lock: LockService,
    private readonly operator: OperatorService,
    private readonly traffic: TrafficService,
    private readonly transmitting: TransmittingService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const rows: { id: string; settings: OwnObjectSettings; state: OwnObject; version: number }[] =
      await this.database.query('SELECT id, settings, state, version FROM own_object ORDER BY id');
    for (const { id, settings, state, version } of rows)
      this.objects.set(id, {
        settings: { ...settings, version },
        machine: this.drive(id, state, state.phase === 'told' || state.phase === 'leaving'),
      });
    this.live.contribute('ownObjects', () => this.views());
    this.traffic.take('own objects', { heard: (frame) => this.hear(frame) });
    // What could not leave leaves as soon as it may.
    this.lock.onChanged((linkId) => {
      for (const { settings, machine } of this.objects.values())
        if (settings.linkId === linkId && this.lock.view(linkId).armed) machine.dispatch({ kind: 'open' });
    });
  }

  onModuleDestroy(): void {
    for (const { machine } of this.objects.values()) machine.end();
  }

  views(): OwnObjectView[] {
    return [...this.objects].map(([id, { settings, machine }]) => ({
      id,
      ...settings,
      state: machine.state(),
    }));
  }

  /** Put, moved or changed: told at once, if the lock is open. */
  async put(id: string, { version, ...given }: OwnObjectSettings): Promise<OwnObjectView> {
    const known = this.objects.get(id);
    if (known) refuseIfChanged(known.settings.version, version);
    this.links.settings(given.linkId);
    const source = formatCallSign(this.operator.ownCall(given.source));
    if (!hasNameOfKind(given))
      throw new ProblemException('field-refused', {
        name: 'an item has three to nine characters, without ! and _',
      });
    const twin = [...this.objects].find(
      ([other, { settings, machine }]) =>
        other !== id && settings.name === given.name && machine.state().phase !== 'gone',
    );
    if (twin) throw new ProblemException('field-refused', { name: 'there is one of this name already' });
    const settings = { ...given, source, version: (known?.settings.version ?? 0) + 1 };
    const { version: _, ...kept } = settings;
    await this.database.query(
      `INSERT INTO own_object (id, settings, state, version) VALUES ($1, $2, '{"phase":"quiet"}', $3)
       ON CONFLICT (id) DO UPDATE SET settings = excluded.settings, version = excluded.version`,
      [id, JSON.stringify(kept), settings.version],
    );
    if (known) known.settings = settings;
    else this.objects.set(id, { settings, machine: this.drive(id, { phase: 'quiet' }, false) });
    this.objects.get(id)?.machine.dispatch({ kind: 'put' });
    this.publish();
    return this.of(id);
  }

  kill(id: string): OwnObjectView {
    this.of(id);
    this.objects.get(id)?.machine.dispatch({ kind: 'kill' });
    return this.of(id);
  }

  /** Off the list; it is not told any more, nor that it is gone. */
  async forget(id: string): Promise<void> {
    const known = this.objects.get(id);
    if (!known) return;
    this.transmitting.withdraw(known.settings.linkId, ownerOf(id));
    known.machine.end();
    this.objects.delete(id);
    await this.database.query('DELETE FROM own_object WHERE id = $1', [id]);
    this.publish();
  }

  private of(id: string): OwnObjectView {
    const view = this.views().find((one) => one.id === id);
    if (!view) throw new ProblemException('not-found');
    return view;
  }

  private drive(id: string, first: OwnObject, isTelling: boolean): Driven<OwnObject, OwnObjectEvent> {
    return drive<OwnObject, OwnObjectEvent, OwnObjectEffect, OwnObjectContext>(ownObjectStep, first, {
      clock: this.clock,
      context: (moment) => ({
        ...moment,
        everyMs: (this.objects.get(id)?.settings.everyMin ?? 10) * MINUTE_MS,
      }),
      perform: (effect) => void this.send(id, effect),
      changed: (state) => {
        void this.deferred.write('UPDATE own_object SET state = $2::jsonb WHERE id = $1', [
          id,
          JSON.stringify(state),
        ]);
        this.publish();
      },
      begin: isTelling ? [{ kind: 'start', timer: 'due', ms: MINUTE_MS }] : [],
    });
  }

  private async send(
    id: string,
    effect: Exclude<OwnObjectEffect, { kind: 'start' | 'stop' }>,
  ): Promise<void> {
    const known = this.objects.get(id);
    if (!known) return;
    const { settings, machine } = known;
    const hops = parsePath(settings.path);
    const { armed } = this.lock.view(settings.linkId);
    if (isMalformed(hops) || !armed) return machine.dispatch({ kind: 'failed' });
    // Only the last word counts.
    this.transmitting.withdraw(settings.linkId, ownerOf(id));
    const what = await this.transmitting
      .offer({
        linkId: settings.linkId,
        frame: uiFrame(
          settings.source,
          OWN_DESTINATION,
          hops,
          fromLatin1(this.infoOf(settings, effect.live)),
        ),
        sendClass: 'message',
        owner: ownerOf(id),
        purpose: 'object',
        expiresInMs: LEAVE_WITHIN_MS,
      })
      .catch(() => 'failed' as const);
    machine.dispatch({ kind: what === 'handed' ? 'sent' : 'failed' });
  }

  private infoOf(settings: OwnObjectSettings, live: boolean): string {
    return objectInfo(
      {
        kind: settings.kind,
        name: settings.name,
        position: parsePlace(settings.place) as Position,
        symbol: { table: settings.symbolTable, code: settings.symbolCode },
        comment: settings.comment,
        everyMs: settings.everyMin * MINUTE_MS,
      },
      live,
      this.clock.nowMs(),
    );
  }

  private hear({ view, origin }: Passing): void {
    if (!view?.report?.object || origin === 'capture') return;
    const name = shownText(view.report.object.name);
    for (const { settings, machine } of this.objects.values())
      // Another call of ours is we.
      if (settings.name === name && !this.isOurs(view.frame.source))
        machine.dispatch({ kind: 'heard', from: view.frame.source });
  }

  private isOurs(source: string): boolean {
    const own = this.operator.view()?.call;
    return own !== undefined && (source === own || source.startsWith(`${own}-`));
  }

  private publish(): void {
    this.live.publish({ kind: 'ownObjects', data: this.views() });
  }
}

const ownerOf = (id: string): string => `object ${id}`;
