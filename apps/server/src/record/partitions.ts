import type { EntityManager } from 'typeorm';

/** Monthly partitions of the record, made before they are needed. */
export class Partitions {
  private readonly made = new Set<string>();
  /** The times that certainly have a partition: most batches lie within. */
  private fromMs = Infinity;
  private toMs = -Infinity;

  /** Makes the partitions of these times, and of the month after each, if they are not there. */
  async ensure(manager: EntityManager, timesMs: readonly number[]): Promise<void> {
    const unsure = timesMs.filter((ms) => ms < this.fromMs || ms >= this.toMs);
    if (unsure.length === 0) return;
    const months = new Set(unsure.flatMap((ms) => [monthOf(ms), nextMonth(monthOf(ms))]));
    for (const month of months) await this.make(manager, month);
    const last = unsure.at(-1) as number;
    this.fromMs = Date.parse(`${monthOf(last)}-01T00:00:00Z`);
    this.toMs = Date.parse(`${nextMonth(monthOf(last))}-01T00:00:00Z`);
  }

  private async make(manager: EntityManager, month: string): Promise<void> {
    if (this.made.has(month)) return;
    // Names and bounds are made of digits here; DDL takes no parameters.
    await manager.query(
      `CREATE TABLE IF NOT EXISTS frames_${month.replace('-', '_')} PARTITION OF frames
       FOR VALUES FROM ('${month}-01T00:00:00Z') TO ('${nextMonth(month)}-01T00:00:00Z')`,
    );
    this.made.add(month);
  }

  /** After a failed transaction nothing is certain. */
  forget(): void {
    this.made.clear();
    this.fromMs = Infinity;
    this.toMs = -Infinity;
  }
}

export function monthOf(ms: number): string {
  return new Date(ms).toISOString().slice(0, 7);
}

export function nextMonth(month: string): string {
  const [year, number] = month.split('-').map(Number) as [number, number];
  return monthOf(Date.UTC(year, number, 1));
}
