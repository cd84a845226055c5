import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { Repository } from 'typeorm';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { Item } from '@mistpeak/core/kit/item';
import { parseItem, parseKit } from '@mistpeak/core/kit/kit-file';
import { fromLibrary } from '@mistpeak/core/kit/library';
import type { SwitchId } from '@mistpeak/core/kit/switches';
import type { KitView } from '@mistpeak/contract/kit';
import { LiveService } from '../live/live.service.js';
import { refuseIfChanged } from '../problems/changed-meanwhile.js';
import { ProblemException } from '../problems/problem.js';
import { RemovalsService } from '../removals/removals.service.js';
import { KitItemEntity } from './kit.entity.js';

const MISTPEAK = 'mistpeak';

/** What the operator owns, in the order in which it was added. Mistpeak itself is always there. */
@Injectable()
export class KitService implements OnModuleInit {
  private current: readonly Item[] = [];
  private versions: Readonly<Record<string, number>> = {};

  constructor(
    @InjectRepository(KitItemEntity) private readonly rows: Repository<KitItemEntity>,
    private readonly live: LiveService,
    private readonly removals: RemovalsService,
  ) {}

  async onModuleInit(): Promise<void> {
    this.live.contribute('kit', () => this.view());
    await this.read();
    if (!this.current.some(({ app }) => app?.isMistpeak)) await this.insert(fromLibrary(MISTPEAK));
  }

  items(): readonly Item[] {
    return this.current;
  }

  /** That item as it is now, or as it was when it was still owned. */
  asNow(item: Item): Item {
    return this.current.find(({ id }) => id === item.id) ?? item;
  }

  async add(settings: Item, id: string): Promise<Item> {
    return this.items().find((one) => one.id === id) ?? this.insert({ ...clean(settings), id });
  }

  async change(id: string, settings: Item, begunWith?: number): Promise<Item> {
    const row = await this.rows.findOneBy({ id });
    if (!row || this.removals.isLeaving(keyOf(id))) throw new ProblemException('not-found');
    refuseIfChanged(row.version, begunWith);
    const item = { ...clean(settings), id };
    await this.rows.save({ ...row, item });
    await this.publish();
    return item;
  }

  /** As the operator has just set it on the thing itself; what is not owned any more is left as it is. */
  async setSwitch(id: string, switchId: SwitchId, to: string): Promise<void> {
    const item = this.current.find((one) => one.id === id);
    if (item?.switches[switchId] === undefined || item.switches[switchId] === to) return;
    await this.change(id, { ...item, switches: { ...item.switches, [switchId]: to } });
  }

  async remove(id: string): Promise<void> {
    if (this.current.find((item) => item.id === id)?.app?.isMistpeak)
      throw new ProblemException('mistpeak-stays');
    const item = this.current.find((one) => one.id === id);
    if (!item) return;
    await this.removals.remove({
      key: keyOf(id),
      words: item.name,
      changed: () => this.publish(),
      finish: async () => void (await this.rows.delete(id)),
    });
  }

  async replace(file: string): Promise<readonly Item[]> {
    const items = parseKit(file);
    if (isMalformed(items)) throw new ProblemException('not-a-kit', { file: items.malformed });
    const all = items.some(({ app }) => app?.isMistpeak) ? items : [...items, fromLibrary(MISTPEAK)];
    const before = this.current;
    await this.write(all);
    if (before.length > 1)
      await this.removals.remove({
        key: 'the kit of before',
        words: 'the kit of before',
        // Brought back, it takes the place of what took its own.
        changed: async () =>
          this.removals.isLeaving('the kit of before') ? undefined : await this.write(before),
        finish: () => Promise.resolve(),
      });
    return this.current;
  }

  private async write(items: readonly Item[]): Promise<void> {
    await this.rows.manager.transaction(async (manager) => {
      await manager.clear(KitItemEntity);
      await manager.insert(
        KitItemEntity,
        items.map((item, place) => ({ id: item.id, place, item })),
      );
    });
    // What was leaving and is in it again stays.
    for (const { id } of items) this.removals.drop(keyOf(id));
    await this.publish();
  }

  private async insert(item: Item): Promise<Item> {
    const [last] = await this.rows.find({ order: { place: 'DESC' }, take: 1 });
    await this.rows.save({ id: item.id, place: (last?.place ?? 0) + 1, item });
    await this.publish();
    return item;
  }

  private async publish(): Promise<void> {
    await this.read();
    this.live.publish({ kind: 'kit', data: this.view() });
  }

  private view(): KitView {
    return { items: this.current, versions: this.versions };
  }

  private async read(): Promise<void> {
    const rows = await this.rows.find({ order: { place: 'ASC' } });
    const here = rows.filter(({ id }) => !this.removals.isLeaving(keyOf(id)));
    this.current = here.map(({ item }) => item);
    this.versions = Object.fromEntries(here.map(({ id, version }) => [id, version]));
  }
}

const keyOf = (id: string): string => `item ${id}`;

/** What the contract let through, without fields that nobody knows. */
function clean(settings: Item): Item {
  const item = parseItem(settings);
  if (isMalformed(item)) throw new ProblemException('field-refused');
  return item;
}
