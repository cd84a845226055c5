import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatPlace, parsePlace } from '@mistpeak/core/geo/place';
import type { Position } from '@mistpeak/core/geo/position';
import type { RadioEnd } from '@mistpeak/core/propagation/margin';
import { PACKET_THRESHOLD_DBM } from '@mistpeak/core/propagation/reach';
import { thinnedOut } from '@mistpeak/core/tracks/track';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useDraft, type Draft } from '../../live/draft';
import { useOwnRadio } from '../../live/own-radio';

/** The set whose packets are tried, as typed; numbers that are none are NaN. points: a track instead of the place. */
export interface OwnSet {
  readonly place: string;
  readonly frequencyMHz: number | undefined;
  readonly heightM: number | undefined;
  readonly powerW: number | undefined;
  readonly gainDbi: number | undefined;
  readonly feedLossDb: number | undefined;
  /** What stands round the antenna takes. */
  readonly clutterDb: number | undefined;
  readonly thresholdDbm: number | undefined;
  readonly track?: { readonly name: string; readonly points: readonly (readonly [number, number])[] };
}

/** A handheld among some trees and houses, where the kit says nothing (common practice, no source). */
const USUAL = { heightM: 1.5, gainDbi: -5, feedLossDb: 0, clutterDb: 8 };

export function useOwnSet(operator: OperatorView): Draft<OwnSet> {
  const { watts, antenna } = useOwnRadio();
  return useDraft<OwnSet>('path set', {
    place: operator.position ? formatPlace(operator.position) : '',
    frequencyMHz: operator.channelMHz,
    thresholdDbm: PACKET_THRESHOLD_DBM,
    ...USUAL,
    powerW: watts,
    ...antenna,
  });
}

export interface ReadySet {
  readonly end: RadioEnd;
  readonly places: readonly Position[];
  readonly frequencyMHz: number;
}

/** Places of a track that are tried; more say little more. */
const MOST_PLACES = 24;

/** The set in numbers, or what is wrong with it, by field. */
export function readSet(
  set: OwnSet,
): ReadySet | { readonly wrong: Readonly<Partial<Record<keyof OwnSet, string>>> } {
  const position = parsePlace(set.place);
  const wrong: Partial<Record<keyof OwnSet, string>> = {};
  const number = (field: keyof OwnSet, from: number, to: number, unit: string): number => {
    const value = set[field] as number | undefined;
    if (value !== undefined && value >= from && value <= to) return value;
    wrong[field] = `a number from ${from} to ${to} ${unit}`;
    return NaN;
  };
  if (!set.track && isMalformed(position)) wrong.place = position.malformed;
  const frequencyMHz = number('frequencyMHz', 28, 450, 'MHz');
  const end = {
    heightM: number('heightM', 0.5, 30_000, 'm'),
    powerW: number('powerW', 0.01, 1500, 'W'),
    gainDbi:
      number('gainDbi', -30, 30, 'dBi') -
      number('feedLossDb', 0, 40, 'dB') -
      number('clutterDb', 0, 40, 'dB'),
    thresholdDbm: number('thresholdDbm', -140, -60, 'dBm'),
  };
  if (Object.keys(wrong).length > 0) return { wrong };
  const places = set.track
    ? thinnedOut(set.track.points, MOST_PLACES).map(([latitudeDeg, longitudeDeg]) => ({
        latitudeDeg,
        longitudeDeg,
      }))
    : [position as Position];
  return { end: { ...end, position: places[0] as Position }, places, frequencyMHz };
}
