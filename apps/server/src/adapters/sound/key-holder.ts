import type { Clock } from '@mistpeak/link/clock';

/** The line or pin that keys a radio. */
export interface KeyPort {
  /** Rejects when it cannot be set: a key is never taken for granted. */
  set(isDown: boolean): Promise<void>;
  close(): Promise<void>;
}

/**
 * Holds the key for as long as it was told, whatever becomes of who told it. It is up at the beginning, also where it was left
 * down by whoever held it before.
 */
export class KeyHolder {
  private cancel: (() => void) | undefined;
  private isDown = false;

  constructor(
    private readonly port: KeyPort,
    private readonly clock: Pick<Clock, 'after'>,
    private readonly failed: (error: unknown) => void,
  ) {}

  /** Rejects when the key cannot be set. */
  begin(): Promise<void> {
    return this.port.set(false);
  }

  /** At most so long. */
  down(limitMs: number): void {
    this.cancel?.();
    this.cancel = this.clock.after(limitMs, () => this.up());
    if (!this.isDown) this.set(true);
  }

  up(): void {
    this.cancel?.();
    this.cancel = undefined;
    if (this.isDown) this.set(false);
  }

  /** Up, whatever was said last, and let go. */
  async end(): Promise<void> {
    this.cancel?.();
    this.isDown = false;
    await this.port.set(false).catch(() => undefined);
    await this.port.close().catch(() => undefined);
  }

  private set(isDown: boolean): void {
    this.isDown = isDown;
    this.port.set(isDown).catch((error: unknown) => this.failed(error));
  }
}
