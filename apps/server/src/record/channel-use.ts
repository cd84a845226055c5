import { wayOf } from '@mistpeak/core/digipeating/way';
import { bitsOnAir } from '@mistpeak/core/hdlc/air-time';
import {
  ASSUMED_TXDELAY_MS,
  laneOf,
  noteOnAir,
  shareHeld,
  type ChannelPast,
} from '@mistpeak/core/stations/channel-past';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { Passing } from '../traffic/traffic.service.js';

/** What held the channel of each link lately. */
export class ChannelUse {
  private readonly pasts = new Map<string, ChannelPast>();

  views(): { linkId: string; past: ChannelPast }[] {
    return [...this.pasts].map(([linkId, past]) => ({ linkId, past }));
  }

  /** Share of the last five minutes in which others and we held the channel, 0–1. */
  shareHeld(linkId: string, nowMs: number): number {
    return shareHeld(this.pasts.get(linkId) ?? [], nowMs, ASSUMED_TXDELAY_MS);
  }

  note({ linkId, atMs, raw, view }: Passing, direction: FrameRecord['direction'], airRate: number): void {
    const lane = laneOf(direction, view && wayOf(view.frame.path).hops);
    const airMs = (bitsOnAir(raw) * 1000) / airRate;
    this.pasts.set(linkId, noteOnAir(this.pasts.get(linkId) ?? [], { atMs, lane, airMs }));
  }
}
