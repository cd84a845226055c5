import type { Clock } from '@mistpeak/link/clock';

/** A test packet is on the air within this; then the level is that of the set-up again, whatever became of the page. */
export const TEST_LASTS_MS = 15_000;

/** The level at which a sound card sends while it is tested. */
export class LevelInTest {
  private readonly ends = new Map<string, () => void>();

  /** sendAt: undefined is the level of the set-up. */
  constructor(
    private readonly clock: Pick<Clock, 'after'>,
    private readonly sendAt: (linkId: string, levelDbfs: number | undefined) => void,
  ) {}

  move(linkId: string, levelDbfs: number): void {
    this.ends.get(linkId)?.();
    this.ends.set(
      linkId,
      this.clock.after(TEST_LASTS_MS, () => this.restore(linkId)),
    );
    this.sendAt(linkId, levelDbfs);
  }

  restore(linkId: string): void {
    const end = this.ends.get(linkId);
    if (!end) return;
    end();
    this.ends.delete(linkId);
    this.sendAt(linkId, undefined);
  }
}
