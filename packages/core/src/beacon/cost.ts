/** What a beacon takes of the battery. */
export interface TransmitDraw {
  readonly powerW: number;
  readonly volts: number;
}

/** Share of what a transmitter draws that leaves it as radio (common practice, no source). */
const EFFICIENCY = 0.45;

/** mAh that so many transmissions of that length take beyond listening. */
export function transmitMilliampHours(airMs: number, count: number, { powerW, volts }: TransmitDraw): number {
  const milliamps = (powerW / EFFICIENCY / volts) * 1000;
  return (milliamps * airMs * count) / 3_600_000;
}

/** Share of the channel that beacons of that air time take, 0–1. copies: the packet itself and those who repeat it. */
export function channelShare(airMs: number, perHour: number, copies = 1): number {
  return Math.min(1, (airMs * copies * perHour) / 3_600_000);
}
