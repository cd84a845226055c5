import { uiFrame, encodeFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parsePath } from '@mistpeak/core/digipeating/alias';
import { OWN_DESTINATION } from '@mistpeak/core/beacon/beacon';
import type { Clock } from '@mistpeak/link/clock';
import type { RadioChannel, RadioSet } from '../radio-channel/radio-channel.js';

/** What is sent again and again: at phaseMs, phaseMs + everyMs … of the clock's own time. */
export interface Beaconing {
  readonly path: string;
  readonly everyMs: number;
  readonly phaseMs: number;
  /** The info field at that time, with a destination where that carries a part of it; undefined: nothing this time. */
  info(atMs: number): string | { readonly info: string; readonly destination: string } | undefined;
}

/** Sends by the plan until it is told to stop. */
export function beaconing(channel: RadioChannel, clock: Clock, set: RadioSet, plan: Beaconing): () => void {
  const path = parsePath(plan.path);
  if (isMalformed(path)) throw new RangeError(`${set.name}: ${path.malformed}`);
  const wait = (): number => plan.everyMs - ((clock.nowMs() - plan.phaseMs) % plan.everyMs);
  let cancel = clock.after(wait(), send);
  function send(): void {
    const sent = plan.info(clock.nowMs());
    const { info, destination } =
      typeof sent === 'object' ? sent : { info: sent, destination: OWN_DESTINATION };
    if (info !== undefined)
      channel.send(set, encodeFrame(uiFrame(set.name, destination, path as [], fromLatin1(info))));
    cancel = clock.after(wait(), send);
  }
  return () => cancel();
}
