import type { Position } from '../geo/position.js';
import { USUAL_ACCESS } from '../network/channel.js';
import type { RadioEnd } from '../propagation/margin.js';
import { PACKET_THRESHOLD_DBM } from '../propagation/reach.js';
import type { HeardNetwork } from './heard-network.js';
import type { Lab, LabRole, LabStation } from './lab.js';

/** A station as its beacons tell of it. symbolCode: `#` digipeater, `&` gateway (1.0.1, "APRS symbols"). */
export interface SeenStation {
  readonly name: string;
  readonly position?: Position | undefined;
  readonly symbolCode?: string | undefined;
  readonly speedMps?: number | undefined;
}

/** A station as the operator knows it. */
export interface KnownSite {
  readonly call: string;
  readonly role: LabRole;
  readonly position: Position;
  readonly heightM: number;
  readonly powerW: number;
  readonly gainDbi: number;
}

export interface Composition {
  readonly lab: Lab;
  /** Heard, and of unknown place: their packets load the channel nowhere. */
  readonly unplaced: readonly string[];
}

type Set = Omit<RadioEnd, 'position' | 'thresholdDbm'>;

/** What a set of each kind usually is, what stands round it taken off, where nobody knows better (common practice, no source). */
export const USUAL_SETS: Readonly<Record<LabRole | 'mobile', Set>> = {
  digipeater: { heightM: 15, powerW: 25, gainDbi: 3 },
  'fill-in': { heightM: 8, powerW: 10, gainDbi: 0 },
  gateway: { heightM: 8, powerW: 25, gainDbi: 0 },
  station: { heightM: 8, powerW: 25, gainDbi: -6 },
  mobile: { heightM: 1.5, powerW: 10, gainDbi: -12 },
};

const HOUR_MS = 3_600_000;
/** A journal of minutes must not make a station that beaconed once look busy. */
const LEAST_SPAN_MS = HOUR_MS / 2;
const USUAL_OCTETS = 40;

/**
 * The channel as a lab: who was heard, where their beacons say that they are, how much they send; what the operator knows
 * goes before what is usual. own: calls whose packets are tried, and so no part of the rest.
 */
export function composeLab(
  network: HeardNetwork,
  seen: readonly SeenStation[],
  sites: readonly KnownSite[],
  own: readonly string[],
  { frequencyMHz, airRate }: { readonly frequencyMHz: number; readonly airRate: number },
): Composition {
  const seenBy = new Map(seen.map((station) => [station.name, station]));
  const siteBy = new Map(sites.map((site) => [site.call, site]));
  const sourceBy = new Map(network.sources.map((source) => [source.call, source]));
  const hours = Math.max(LEAST_SPAN_MS, network.toMs - network.fromMs) / HOUR_MS;
  const calls = new Set([...siteBy.keys(), ...network.repeaters.map(({ call }) => call), ...sourceBy.keys()]);
  const stations: LabStation[] = [];
  const unplaced: string[] = [];
  for (const call of [...calls].filter((one) => !own.includes(one)).sort()) {
    const site = siteBy.get(call);
    const station = seenBy.get(call);
    const position = site?.position ?? station?.position;
    if (!position) {
      unplaced.push(call);
      continue;
    }
    const role = site?.role ?? roleOf(call, station, network);
    const set = site ?? USUAL_SETS[role === 'station' && isMobile(station) ? 'mobile' : role];
    const source = sourceBy.get(call);
    stations.push({
      call,
      role,
      end: {
        position,
        heightM: set.heightM,
        powerW: set.powerW,
        gainDbi: set.gainDbi,
        thresholdDbm: PACKET_THRESHOLD_DBM,
      },
      packetsPerHour: source ? source.packets / hours : 0,
      path: source?.path ?? '',
      octets: source && source.octets > 0 ? Math.min(255, source.octets) : USUAL_OCTETS,
    });
  }
  return { lab: { stations, frequencyMHz, airRate, access: USUAL_ACCESS }, unplaced };
}

/** Who was heard to serve more than WIDE1 is no fill-in. */
function roleOf(call: string, station: SeenStation | undefined, network: HeardNetwork): LabRole {
  const repeater = network.repeaters.find((one) => one.call === call);
  if (repeater) {
    const isWide = Object.keys(repeater.aliases).some((alias) => /^WIDE[2-7]$/.test(alias));
    return isWide ? 'digipeater' : 'fill-in';
  }
  if (station?.symbolCode === '#') return 'digipeater';
  return station?.symbolCode === '&' ? 'gateway' : 'station';
}

/** Its symbol is one of those that move, or it does. */
function isMobile(station: SeenStation | undefined): boolean {
  if ((station?.speedMps ?? 0) > 0) return true;
  return station?.symbolCode !== undefined && ">[<bgjkuvRUXYsO'^=Cae".includes(station.symbolCode);
}
