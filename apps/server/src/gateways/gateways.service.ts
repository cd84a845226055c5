import { Inject, Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { isLeftOut, readList, readRows } from '@mistpeak/core/gateways/columns';
import {
  facilityKey,
  facilityOf,
  type Facility,
  type FacilityFacts,
  type Source,
} from '@mistpeak/core/gateways/facility';
import { decide, merge } from '@mistpeak/core/gateways/merge';
import type {
  AttemptView,
  ChangeFacility,
  ConflictView,
  DecideConflict,
  DirectoryView,
  GatewaysPulse,
  ListMapping,
  NewReport,
  TakeFacts,
  TakeList,
  TakenView,
} from '@mistpeak/contract/gateways';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { LiveService } from '../live/live.service.js';
import { ProblemException } from '../problems/problem.js';
import { RemovalsService } from '../removals/removals.service.js';
import { GatewaysStore } from './gateways-store.js';

const SHOWN_LEFT_OUT = 20;

/** The one directory of those who can be called: core merges, the operator decides where sources differ. */
@Injectable()
export class GatewaysService implements OnApplicationBootstrap {
  private directory: readonly Facility[] = [];
  private conflicts: readonly ConflictView[] = [];
  private mappings: Readonly<Record<string, ListMapping>> = {};
  private revision = 0;
  /** One change after the other: each begins with what the last has left. */
  private last: Promise<unknown> = Promise.resolve();

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly live: LiveService,
    private readonly removals: RemovalsService,
    private readonly store: GatewaysStore,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    this.live.contribute('gateways', () => this.pulse());
    this.revision = this.clock.nowMs();
    await this.read();
  }

  view(): DirectoryView {
    const facilities = this.shown();
    return { revision: this.revision, facilities, conflicts: this.conflicts, mappings: this.mappings };
  }

  attempts(): Promise<AttemptView[]> {
    return this.store.attempts();
  }

  takeList({ by, name, text, mapping, usualKind }: TakeList): Promise<TakenView> {
    const rows = readRows(text);
    if (isMalformed(rows)) throw new ProblemException('field-refused', { text: rows.malformed });
    const read = readList(rows, mapping, usualKind);
    const left = read.filter(isLeftOut);
    const facts = read.filter((one): one is FacilityFacts => !isLeftOut(one));
    if (facts.length === 0)
      throw new ProblemException('field-refused', {
        mapping: `no row of it can be read: ${left[0]?.why ?? 'there is none'}`,
      });
    return this.inTurn(async () => {
      await this.store.keepMapping(rows.columns.join(','), { mapping, usualKind });
      const taken = await this.take(facts, { by, name, atMs: this.clock.nowMs() });
      return { ...taken, leftOut: left.length, why: left.slice(0, SHOWN_LEFT_OUT) };
    });
  }

  takeFacts({ by, name, facts }: TakeFacts): Promise<TakenView> {
    return this.inTurn(() => this.take(facts, { by, name, atMs: this.clock.nowMs() }));
  }

  /** By hand: what is told now counts, also where nothing is told any more. */
  change({ key, facts }: ChangeFacility): Promise<DirectoryView> {
    return this.inTurn(async () => {
      const before = this.shown().find((one) => facilityKey(one) === key);
      if (!before) throw new ProblemException('not-found');
      const next = facilityKey(facts);
      if (next !== key && this.shown().some((one) => facilityKey(one) === next))
        throw new ProblemException('field-refused', { frequencyMHz: `${facts.call} is there already on it` });
      const byHand = facilityOf(facts, { by: 'hand', name: '', atMs: this.clock.nowMs() });
      const sources = Object.fromEntries(
        Object.entries(byHand.sources).map(([fact, source]) => {
          const name = fact as keyof FacilityFacts;
          const isSame = JSON.stringify(before[name]) === JSON.stringify(facts[name]);
          return [fact, isSame ? (before.sources[name] ?? source) : source];
        }),
      );
      await this.store.keep([{ ...byHand, sources }], next === key ? [] : [key]);
      await this.store.forgetConflictsOf(key);
      await this.read();
      return this.view();
    });
  }

  async remove(key: string): Promise<void> {
    const facility = this.directory.find((one) => facilityKey(one) === key);
    if (!facility) return;
    await this.removals.remove({
      key: leavingKey(key),
      words: `${facility.call} on ${facility.frequencyMHz} MHz`,
      changed: () => this.tell(),
      finish: () =>
        this.inTurn(async () => {
          await this.store.keep([], [key]);
          await this.store.forgetConflictsOf(key);
          await this.read();
        }),
    });
  }

  decide({ id, takes }: DecideConflict): Promise<DirectoryView> {
    return this.inTurn(async () => {
      const conflict = this.conflicts.find((one) => one.id === id);
      if (!conflict) return this.view();
      if (takes === 'told' && conflict.source) {
        const decided = decide(this.directory, conflict, conflict.source);
        await this.store.keep(decided.filter((one) => facilityKey(one) === conflict.key));
      }
      await this.store.decided(id);
      await this.read();
      return this.view();
    });
  }

  async report(id: string, report: NewReport): Promise<AttemptView[]> {
    if (report.atMs > this.clock.nowMs())
      throw new ProblemException('field-refused', { atMs: 'that is not yet' });
    await this.store.report(id, report);
    this.tell();
    return this.attempts();
  }

  private async take(facts: readonly FacilityFacts[], source: Source): Promise<TakenView> {
    const { directory, added, completed, conflicts } = merge(this.directory, facts, source);
    const changed = directory.filter((one, i) => one !== this.directory[i]);
    // What is told anew is wanted again, though it was just removed.
    for (const one of changed) this.removals.drop(leavingKey(facilityKey(one)));
    await this.store.keep(changed);
    await this.store.keepConflicts(
      conflicts.map((conflict) => {
        const key = facilityKey(conflict);
        return { ...conflict, key, source, id: `${key} ${conflict.fact} ${JSON.stringify(conflict.told)}` };
      }),
    );
    const before = new Set(this.conflicts.map(({ id }) => id));
    await this.read();
    const fresh = this.conflicts.filter(({ id }) => !before.has(id)).length;
    return { added, completed, conflicts: fresh, leftOut: 0, why: [] };
  }

  private async read(): Promise<void> {
    [this.directory, this.conflicts, this.mappings] = await Promise.all([
      this.store.facilities(),
      this.store.conflicts(),
      this.store.mappings(),
    ]);
    this.tell();
  }

  private tell(): void {
    this.revision++;
    this.live.publish({ kind: 'gateways', data: this.pulse() });
  }

  private pulse(): GatewaysPulse {
    const { revision, directory, conflicts } = this;
    return { revision, facilities: directory.length, conflicts: conflicts.length };
  }

  private shown(): Facility[] {
    return this.directory.filter((one) => !this.removals.isLeaving(leavingKey(facilityKey(one))));
  }

  private inTurn<Result>(work: () => Promise<Result>): Promise<Result> {
    const next = this.last.then(work);
    this.last = next.catch(() => undefined);
    return next;
  }
}

const leavingKey = (key: string): string => `facility ${key}`;
