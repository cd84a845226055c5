import { randomUUID } from 'node:crypto';
import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { shownText } from '@mistpeak/core/bits/octets';
import { callWithoutSsid } from '@mistpeak/core/callsign/callsign';
import { drive, type Driven } from '@mistpeak/core/machine/drive';
import { stationName } from '@mistpeak/core/stations/station';
import { deskStep, emptyDesk, type Desk, type DeskEffect, type DeskEvent } from '@mistpeak/core/watch/desk';
import type { DutyEntry } from '@mistpeak/core/watch/duty-log';
import type { Seen } from '@mistpeak/core/watch/sighting';
import { watchedOf } from '@mistpeak/core/watch/watch-list';
import type { DutyNote, SightingView, WatchSettings, WatchView } from '@mistpeak/contract/watch';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LiveService } from '../live/live.service.js';
import { OperatorService } from '../operator/operator.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { RecordService } from '../record/record.service.js';
import { TrafficService, type Passing } from '../traffic/traffic.service.js';
import { seenOf } from './seen.js';
import { NO_WATCH, WatchStore, type KeptSettings } from './watch-store.js';

const SHOWN_ENTRIES = 60;
const MOST_ENTRIES = 5000;
/** Sightings are kept this often, alarms at once. */
const KEPT_EVERY_MS = 10_000;
/** What was heard so shortly before a watch began counts for it. */
const COUNTS_BEFORE_MS = 3_600_000;
/** A message that comes again within this time is the same one (a sender repeats until it is acknowledged). */
const SAME_WITHIN_MS = 30 * 60_000;

/** The desk of an event: core's machine on what is heard, with its log. It sends nothing. */
@Injectable()
export class WatchService implements OnApplicationBootstrap, OnModuleDestroy {
  private settings: KeptSettings = NO_WATCH;
  private machine: Driven<Desk, DeskEvent> | undefined;
  private entries: DutyEntry[] = [];
  private readonly messages = new Map<string, number>();
  private writing: Promise<boolean> | undefined;
  private cancelKeeping: (() => void) | undefined;

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly live: LiveService,
    private readonly operator: OperatorService,
    private readonly record: RecordService,
    private readonly store: WatchStore,
    private readonly traffic: TrafficService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const { settings, desk } = await this.store.read();
    this.settings = settings;
    this.entries = await this.store.entries(desk?.begunMs ?? 0, SHOWN_ENTRIES);
    const first = { ...emptyDesk(this.clock.nowMs()), ...desk };
    this.machine = drive<Desk, DeskEvent, DeskEffect, { nowMs: number }>(deskStep, first, {
      clock: this.clock,
      context: () => ({ nowMs: this.clock.nowMs() }),
      perform: (effect) => this.perform(effect),
      changed: () => this.keepSoon(),
    });
    this.list();
    this.live.contribute('watch', () => this.view());
    this.live.contribute('sightings', () => this.sightings());
    this.live.contribute('duty', () => this.entries);
    this.traffic.take('watch', { heard: (frame) => this.hear(frame) });
  }

  onModuleDestroy(): void {
    if (this.cancelKeeping) this.keep();
    this.machine?.end();
  }

  view(): WatchView {
    const { begunMs, alarms } = this.desk();
    return { settings: this.settings, begunMs, alarms: [...alarms.values()] };
  }

  sightings(): SightingView[] {
    return [...this.desk().sightings].map(([call, sighting]) => ({ call, sighting }));
  }

  async log(sinceMs: number): Promise<DutyEntry[]> {
    await this.writing;
    return this.store.entries(sinceMs, MOST_ENTRIES);
  }

  async choose({ version, ...given }: WatchSettings): Promise<WatchView> {
    refuseIfChanged(this.settings.version, version);
    const lost = given.watched.find(({ leg }) => leg !== '' && !given.legs.some(({ name }) => name === leg));
    if (lost) throw new ProblemException('field-refused', { watched: `there is no leg ‘${lost.leg}’` });
    const settings = { ...given, version: this.settings.version + 1 };
    const before = new Set(this.settings.watched.map(({ call }) => call));
    await this.store.keepSettings(settings);
    this.settings = settings;
    this.list();
    const added = settings.watched.filter(({ call }) => !before.has(call)).map(({ call }) => call);
    await this.recall(new Set(added));
    this.tellAll();
    return this.view();
  }

  /** A new watch: of what was heard, only the last hour counts; alarms that hold are raised anew. */
  async begin(): Promise<WatchView> {
    const countsFromMs = this.clock.nowMs() - COUNTS_BEFORE_MS;
    this.machine?.dispatch({ kind: 'begin', countsFromMs });
    this.note({ kind: 'begun', words: this.settings.name });
    await this.recall(new Set(this.settings.watched.map(({ call }) => call)));
    this.tellAll();
    return this.view();
  }

  acknowledge(id: string, note: string): WatchView {
    this.machine?.dispatch({ kind: 'acknowledge', id, note });
    return this.view();
  }

  write(id: string, { call, words }: DutyNote): DutyEntry {
    return this.note({ id, kind: 'note', words, ...(call === undefined ? {} : { call }) });
  }

  private desk(): Desk {
    return this.machine?.state() ?? emptyDesk(this.clock.nowMs());
  }

  private list(): void {
    const watched = this.settings.watched.map((line) => watchedOf(line, this.settings.legs));
    this.machine?.dispatch({ kind: 'list', watched });
  }

  private hear({ view, atMs, origin }: Passing): void {
    // A capture has its own times; it is read again when a watch begins.
    if (!view || origin === 'capture') return;
    const { frame, report } = view;
    const call = stationName({ frame, report, heardAtMs: atMs, frameId: '' });
    if (!this.desk().watched.has(call)) return;
    const called = this.wordToUs(call, report?.message, atMs);
    const seen = { ...seenOf(report, atMs), ...(called === undefined ? {} : { called }) };
    if (called !== undefined) this.note({ kind: 'message', call, words: called });
    this.machine?.dispatch({ kind: 'seen', call, seen });
    const sighting = this.desk().sightings.get(call);
    if (sighting) this.live.publish({ kind: 'sighted', data: { call, sighting } });
  }

  /** What a message to one of our own calls says, once. */
  private wordToUs(
    from: string,
    message: { addressee: string; text?: string; number?: string } | undefined,
    atMs: number,
  ): string | undefined {
    const own = this.operator.view()?.call;
    if (!message?.text || own === undefined || callWithoutSsid(message.addressee.trim()) !== own)
      return undefined;
    const key = `${from} ${message.number ?? ''} ${message.text}`;
    for (const [known, at] of this.messages) if (atMs - at > SAME_WITHIN_MS) this.messages.delete(known);
    if (this.messages.has(key)) return undefined;
    this.messages.set(key, atMs);
    return shownText(message.text);
  }

  /** What the journal has of these since the watch counts. */
  private async recall(calls: ReadonlySet<string>): Promise<void> {
    if (calls.size === 0) return;
    const packets: { call: string; seen: Seen }[] = [];
    for await (const { view, atMs } of this.record.heardSince(this.desk().countsFromMs)) {
      const call = stationName({ frame: view.frame, report: view.report, heardAtMs: atMs, frameId: '' });
      if (calls.has(call)) packets.push({ call, seen: seenOf(view.report, atMs) });
    }
    this.machine?.dispatch({ kind: 'recalled', packets });
  }

  private perform(effect: Exclude<DeskEffect, { kind: 'start' | 'stop' }>): void {
    const { call, need, words = '', acknowledged } = effect.alarm;
    this.note({
      kind: effect.kind,
      call,
      need,
      words:
        effect.kind === 'acknowledged' ? (acknowledged?.note ?? '') : effect.kind === 'raised' ? words : '',
    });
    this.live.publish({ kind: 'watch', data: this.view() });
  }

  private note(entry: Omit<DutyEntry, 'id' | 'atMs'> & { readonly id?: string }): DutyEntry {
    const label = this.settings.watched.find(({ call }) => call === entry.call)?.label;
    const made: DutyEntry = {
      id: randomUUID(),
      atMs: this.clock.nowMs(),
      ...(label ? { label } : {}),
      ...entry,
    };
    this.entries = [...this.entries, made].slice(-SHOWN_ENTRIES);
    this.writing = this.store.keepEntry(made);
    this.live.publish({ kind: 'duty', data: made });
    return made;
  }

  private tellAll(): void {
    this.live.publish({ kind: 'watch', data: this.view() });
    this.live.publish({ kind: 'sightings', data: this.sightings() });
  }

  private keepSoon(): void {
    this.cancelKeeping ??= this.clock.after(KEPT_EVERY_MS, () => this.keep());
  }

  private keep(): void {
    this.cancelKeeping?.();
    this.cancelKeeping = undefined;
    if (this.settings.version > 0) void this.store.keepDesk(this.desk());
  }
}
