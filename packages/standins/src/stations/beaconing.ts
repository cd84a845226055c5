import { uiFrame, encodeFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parsePath } from '@mistpeak/core/digipeating/alias';
import { OWN_DESTINATION } from '@mistpeak/core/beacon/beacon';
import type { Clock } from '@mistpeak/link/clock';
import type { RadioChannel, RadioSet } from '../radio-channel/radio-channel.js';

export interface Beaconing {
  readonly call: string;
  readonly path: string;
  readonly everyMs: number;
  readonly firstAfterMs: number;
  /** The info field at that time. */
  info(atMs: number): string;
}

/** A set that only sends: its beacon again and again. Returns how to stop it. */
export function beaconing(channel: RadioChannel, clock: Clock, plan: Beaconing): () => void {
  const set: RadioSet = { name: plan.call, hear: () => undefined };
  channel.attach(set);
  return beaconFrom(channel, clock, set, plan);
}

/** The same for a set that does something else too, a digipeater say. */
export function beaconFrom(channel: RadioChannel, clock: Clock, set: RadioSet, plan: Beaconing): () => void {
  const path = parsePath(plan.path);
  if (isMalformed(path)) throw new RangeError(`${plan.call}: ${path.malformed}`);
  let cancel = clock.after(plan.firstAfterMs, send);
  function send(): void {
    const info = fromLatin1(plan.info(clock.nowMs()));
    channel.send(set, encodeFrame(uiFrame(plan.call, OWN_DESTINATION, path as [], info)));
    cancel = clock.after(plan.everyMs, send);
  }
  return () => cancel();
}
