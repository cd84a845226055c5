/** What a beacon takes of the battery. */
export interface TransmitDraw {
  readonly powerW: number;
  readonly volts: number;
}

/** Share of what a transmitter draws that leaves it as radio (common practice, no source). */
const EFFICIENCY = 0.45;

/** What a transmitter draws while it is keyed, A. */
export const transmitAmps = ({ powerW, volts }: TransmitDraw): number => powerW / EFFICIENCY / volts;

/** mAh that so many transmissions of that length take beyond listening. */
export function transmitMilliampHours(airMs: number, count: number, draw: TransmitDraw): number {
  return (transmitAmps(draw) * 1000 * airMs * count) / 3_600_000;
}

/** Share of the channel that beacons of that air time take, 0–1. copies: the packet itself and those who repeat it. */
export function channelShare(airMs: number, perHour: number, copies = 1): number {
  return Math.min(1, (airMs * copies * perHour) / 3_600_000);
}
