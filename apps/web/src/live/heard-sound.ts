import type { HeardPacket, Stretch } from '@mistpeak/core/levels/sound-watch';
import type { SpectrumShape } from '@mistpeak/core/levels/spectrum';
import type { SoundReport } from '@mistpeak/link/watched-tnc';

/** So much of the past is drawn. */
export const KEPT_MS = 60_000;

/** A stretch or packet with the clock's time of its end. */
export type OnClock<Thing> = Thing & { readonly clockMs: number };

/** The last minute of one sound card, for drawings that look at it with each frame of the screen. */
export class HeardSound {
  shape: SpectrumShape | undefined;
  stretches: OnClock<Stretch>[] = [];
  packets: OnClock<HeardPacket>[] = [];
  private readonly listeners = new Set<(report: SoundReport) => void>();

  /** atMs: the clock's time at the end of what the report has heard. */
  take(report: SoundReport, atMs: number): void {
    const { news, heardMs, shape } = report;
    const onClock = <Thing extends { readonly atMs: number }>(one: Thing): OnClock<Thing> => ({
      ...one,
      clockMs: atMs - (heardMs - one.atMs),
    });
    this.shape = shape;
    this.stretches.push(...news.stretches.map(onClock));
    this.packets.push(...news.packets.map(onClock));
    const oldest = atMs - KEPT_MS;
    this.stretches = this.stretches.filter(({ clockMs }) => clockMs > oldest);
    this.packets = this.packets.filter(({ clockMs }) => clockMs > oldest);
    for (const listener of this.listeners) listener(report);
  }

  clear(): void {
    this.stretches = [];
    this.packets = [];
  }

  /** Calls with each report; returns how to stop. */
  listen(listener: (report: SoundReport) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }
}
