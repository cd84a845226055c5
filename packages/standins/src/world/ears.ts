import type { Ground } from '@mistpeak/core/propagation/profile';
import { receivedDbm, type RadioSite } from '@mistpeak/core/propagation/reach';
import { toSpot } from '../terrain/plane.js';

/** Where a set is at that time. */
export type SiteAt = (atMs: number) => RadioSite;

/** Levels are reckoned anew when a set has moved so far, km. */
const CELL_KM = 0.1;
const MOST_REMEMBERED = 50_000;
/** A set that nobody placed hears nothing. */
const SILENCE_DBM = -300;

/** Who hears whom how loud: core's propagation over the island's ground, remembered for sets that stand still. */
export class Ears {
  private readonly sites = new Map<string, SiteAt>();
  private readonly remembered = new Map<string, number>();

  constructor(
    private readonly ground: Ground,
    private readonly frequencyMHz: number,
  ) {}

  place(name: string, site: SiteAt): void {
    this.sites.set(name, site);
  }

  /** dBm. */
  hear(receiver: string, sender: string, atMs: number): number {
    const [to, from] = [this.sites.get(receiver)?.(atMs), this.sites.get(sender)?.(atMs)];
    if (!to || !from) return SILENCE_DBM;
    const key = `${sender} ${cellOf(from)} ${receiver} ${cellOf(to)}`;
    const known = this.remembered.get(key);
    if (known !== undefined) return known;
    if (this.remembered.size >= MOST_REMEMBERED) this.remembered.clear();
    const dbm = receivedDbm(from, to, this.ground, this.frequencyMHz);
    this.remembered.set(key, dbm);
    return dbm;
  }
}

function cellOf({ position, heightM }: RadioSite): string {
  const { x, y } = toSpot(position);
  return `${Math.round(x / CELL_KM)},${Math.round(y / CELL_KM)},${Math.round(heightM / 100)}`;
}
