import { channelShare, transmitMilliampHours } from '@mistpeak/core/beacon/cost';
import { airTimeMs } from '@mistpeak/core/hdlc/air-time';
import { useMainLink } from './main-link';
import { useOwnRadio } from './own-radio';

/** Each packet and those who repeat it, as a rule (common practice, no source). */
const COPIES = 3;
export const VOLTS = 12;

/** Share of the channel that so many beacons an hour take, those who repeat them reckoned in, in words. */
export const shareWords = (airMs: number, perHour: number): string =>
  `${(shareOfChannel(airMs, perHour) * 100).toFixed(1)} %`;

export const shareOfChannel = (airMs: number, perHour: number): number =>
  channelShare(airMs, perHour, COPIES);

/** What a frame takes on the operator's own link, and of the battery with his own radio. */
export function useOwnCost(): {
  readonly watts: number;
  readonly airMs: (raw: Uint8Array) => number;
  readonly milliampHours: (airMs: number, count: number) => number;
} {
  const { airRate = 1200, txDelayMs = 300, txTailMs = 0 } = useMainLink()?.settings ?? {};
  const { watts } = useOwnRadio();
  return {
    watts,
    airMs: (raw) => airTimeMs(raw, airRate, { txDelayMs, txTailMs }),
    milliampHours: (airMs, count) => transmitMilliampHours(airMs, count, { powerW: watts, volts: VOLTS }),
  };
}
