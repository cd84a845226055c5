import { useEffect, useMemo } from 'react';
import { facilityKey, type Facility, type FacilityKind } from '@mistpeak/core/gateways/facility';
import { rank, type Ranked } from '@mistpeak/core/gateways/rank';
import { wayTo, type Position } from '@mistpeak/core/geo/position';
import { USUAL_SETS } from '@mistpeak/core/path-lab/compose';
import { PACKET_THRESHOLD_DBM } from '@mistpeak/core/propagation/reach';
import { formatDistance, type UnitSystem } from '@mistpeak/core/units/units';
import { windName } from '@mistpeak/core/geo/position';
import type { Directory } from '../../live/directory';
import { useOwnRadio } from '../../live/own-radio';
import { usePathWork } from '../../live/path-work';
import type { PathJobs } from '../../workers/path-messages';

export type GroundWay = PathJobs['gateways']['answer']['ways'][number];

/** Beyond that no VHF gateway is reached over ground (common practice, no source), and no ground is fetched for it. */
const GROUND_KM = 150;
const MOST_GROUND = 60;
const HF_MHZ = 30;
/** Where the kit knows no antenna: a handheld at the body (common practice, no source). */
const HANDHELD = { heightM: 1.5, gainDbi: -5, feedLossDb: 0 };

/** What the ground says of the nearest, by key; asked anew when the place or the directory changes. */
export function useGround(
  directory: readonly Facility[],
  from: Position | undefined,
): {
  readonly ways: ReadonlyMap<string, GroundWay>;
  readonly isKnown: boolean;
  readonly share: number | undefined;
} {
  const { watts, antenna = HANDHELD } = useOwnRadio();
  const { answer, share, begin } = usePathWork('gateways');
  const near = useMemo(() => (from ? nearest(directory, from) : []), [directory, from]);
  useEffect(() => {
    if (!from || near.length === 0) return;
    const { heightM, gainDbi, feedLossDb } = antenna;
    begin({
      here: {
        position: from,
        heightM,
        gainDbi: gainDbi - feedLossDb,
        powerW: watts,
        thresholdDbm: PACKET_THRESHOLD_DBM,
      },
      there: near.map((facility) => ({
        key: facilityKey(facility),
        frequencyMHz: facility.frequencyMHz,
        end: {
          ...USUAL_SETS[
            facility.kind === 'mail gateway' || facility.kind === 'mailbox' ? 'gateway' : 'digipeater'
          ],
          ...(facility.heightM === undefined ? {} : { heightM: facility.heightM }),
          position: facility.position as Position,
          thresholdDbm: PACKET_THRESHOLD_DBM,
        },
      })),
    });
    // begin is of this render and does the same in each.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [near, from, watts, antenna.heightM, antenna.gainDbi, antenna.feedLossDb]);
  return useMemo(() => {
    // Without any elevation a smooth earth would flatter the far ones.
    const known = answer?.isGroundKnown ? answer.ways : [];
    return {
      ways: new Map(known.map((way) => [way.key, way])),
      isKnown: answer?.isGroundKnown !== false,
      share,
    };
  }, [answer, share]);
}

const nearest = (directory: readonly Facility[], from: Position): Facility[] =>
  directory
    .filter(({ position, frequencyMHz }) => position !== undefined && frequencyMHz >= HF_MHZ)
    .map((facility) => ({ facility, km: wayTo(from, facility.position as Position).distanceKm }))
    .filter(({ km }) => km <= GROUND_KM)
    .sort((a, b) => a.km - b.km)
    .slice(0, MOST_GROUND)
    .map(({ facility }) => facility);

export interface Wish {
  readonly kind: FacilityKind | '';
  readonly words: string;
  readonly isNear: ((position: Position) => boolean) | undefined;
}

/** In the order to call them, of those that are wished for. */
export function orderOf(
  { facilities, attempts }: Directory,
  { kind, words, isNear }: Wish,
  { from, nowMs, ground }: { from: Position; nowMs: number; ground: ReadonlyMap<string, GroundWay> },
): Ranked[] {
  const wanted = facilities.filter(
    (one) =>
      (kind === '' || one.kind === kind) &&
      (isNear === undefined || (one.position !== undefined && isNear(one.position))) &&
      [one.call, one.mode, one.notes, one.frequencyMHz.toFixed(3), one.kind]
        .join(' ')
        .toLowerCase()
        .includes(words.trim().toLowerCase()),
  );
  return rank(wanted, {
    here: from,
    nowMs,
    hour: new Date(nowMs).getHours(),
    attempts,
    chanceOver: (facility) => ground.get(facilityKey(facility))?.chance,
  });
}

/** `Call QH5VEL-10 first: 144.850 MHz, 12 km NE; answered 3 of 4 times, free over the ground.` */
export function firstInWords(ranked: readonly Ranked[], units: UnitSystem): string {
  const [first] = ranked;
  if (!first) return 'Nobody is in the directory yet.';
  const way = wayInWords(first, units);
  return `Call ${first.facility.call} first: ${first.facility.frequencyMHz.toFixed(3)} MHz${way === '' ? '' : `, ${way}`}; ${first.why}.`;
}

export function wayInWords({ distanceKm, bearingDeg }: Ranked, units: UnitSystem): string {
  if (distanceKm === undefined || bearingDeg === undefined) return '';
  return `${formatDistance(distanceKm, units)} ${windName(bearingDeg)}`;
}

export const chanceInWords = (chance: number): string =>
  chance >= 0.7 ? 'likely' : chance >= 0.3 ? 'perhaps' : 'hardly';
