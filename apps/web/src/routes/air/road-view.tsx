import { ArrowUp, CircleDot } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { PACKET_THRESHOLD_DBM } from '@mistpeak/core/propagation/reach';
import type { RadioEnd } from '@mistpeak/core/propagation/margin';
import type { Position } from '@mistpeak/core/geo/position';
import { formatDistance } from '@mistpeak/core/units/units';
import type { OperatorView } from '@mistpeak/contract/operator';
import { keepAwake } from '../../adapters/keep-awake';
import { useHere } from '../../live/here';
import { useNow } from '../../live/now';
import { useOwnRadio } from '../../live/own-radio';
import { usePathWork } from '../../live/path-work';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Choice } from '../../pieces/choice';
import { directionWords, isHere, onTheRoad, type OnTheRoad } from './road';

const SHOWN = 12;
const REACH_EVERY_MS = 30_000;
/** A car's antenna, and another's of which nobody knows more (common practice, no source). */
const CAR = { heightM: 2, gainDbi: 0 };
/** Speech is made out a little below what a packet needs (common practice, no source). */
const VOICE_THRESHOLD_DBM = PACKET_THRESHOLD_DBM - 3;
const VOICE_MHZ = 145.5;

/** For whoever is on the way: who is near, comes or parts, can be called, and on which channel. Huge, for one glance. */
export function RoadView({ operator }: { operator: OperatorView }) {
  const stations = useLive((state) => state.stations);
  const nowMs = useNow(2000);
  const here = useHere(operator);
  const [isAwake, setAwake] = useState(false);
  useEffect(() => (isAwake ? keepAwake() : undefined), [isAwake]);
  const near = useMemo(
    () => (here ? onTheRoad(stations.values(), here, { nowMs, ownCall: operator.call }).slice(0, SHOWN) : []),
    [stations, here, nowMs, operator.call],
  );
  const inReach = useVoiceReach(here?.position, near);
  return (
    <section aria-label="On the road" className="mx-auto flex w-full max-w-[40rem] flex-col gap-2 px-4 py-3">
      <p role="note" className="border-l-[4px] border-look bg-raise px-3 py-2 text-[15px] font-[620]">
        Not to be handled while driving.
      </p>
      <Choice label="Keep the screen awake" isOn={isAwake} set={setAwake} />
      {!here && (
        <p>Say where you are: enter your place in Settings, or let this page or a receiver tell it.</p>
      )}
      {here && near.length === 0 && <p>Nobody with a place was heard in the last hour.</p>}
      <ol aria-label="Nearest first">
        {near.map((one) => (
          <li key={one.station.name} className="border-t-2 border-ink py-3">
            <Near
              one={one}
              reach={inReach.get(one.station.name)}
              nowMs={nowMs}
              operator={operator}
              courseDeg={here?.courseDeg ?? 0}
            />
          </li>
        ))}
      </ol>
    </section>
  );
}

function Near({
  one,
  reach,
  nowMs,
  operator,
  courseDeg,
}: {
  one: OnTheRoad;
  reach: string | undefined;
  nowMs: number;
  operator: OperatorView;
  courseDeg: number;
}) {
  const { station, bearingDeg, distanceKm, approach } = one;
  const { frequency } = station;
  const Pointer = isHere(one) ? CircleDot : ArrowUp;
  return (
    <div className="grid grid-cols-[76px_1fr] gap-x-3">
      {/* As seen by who goes: up is straight ahead. */}
      <Pointer
        aria-hidden
        className={`size-[72px] ${approach && approach.rangeRateMps < 0 ? 'text-proved' : 'text-ink2'}`}
        strokeWidth={2.2}
        style={{ transform: `rotate(${bearingDeg - courseDeg}deg)` }}
      />
      <div className="min-w-0">
        <p className="flex flex-wrap items-baseline justify-between gap-x-3">
          <b className="font-mono text-[1.7rem] leading-tight font-[650]">{station.name}</b>
          <span className="font-mono text-[1.7rem] leading-tight">
            {formatDistance(distanceKm, operator.units)}
          </span>
        </p>
        <p className="text-[1.15rem] leading-snug">{directionWords(one, operator.units)}</p>
        <p className="text-[1.15rem] leading-snug font-[560]">
          {reach ?? 'reach not reckoned yet'}
          {frequency?.frequencyMHz === undefined ? '' : `; calls on ${frequency.frequencyMHz.toFixed(3)} MHz`}
        </p>
        <p className="text-[14px] text-ink2">
          heard {formatAge(nowMs - (station.radioAtMs ?? station.heardAtMs))} ago
          {station.comment ? ` · ${station.comment}` : ''}
        </p>
      </div>
    </div>
  );
}

/** In words, by name: over the ground that is known, both ways. */
function useVoiceReach(here: Position | undefined, near: readonly OnTheRoad[]): ReadonlyMap<string, string> {
  const { watts } = useOwnRadio();
  const { answer, begin } = usePathWork('voice');
  const [asked, setAsked] = useState<readonly string[]>([]);
  const isThere = here !== undefined && near.length > 0;
  useEffect(() => {
    if (!here || near.length === 0) return;
    const ask = (): void => {
      const end = (position: Position): RadioEnd => ({
        ...CAR,
        position,
        powerW: watts,
        thresholdDbm: VOICE_THRESHOLD_DBM,
      });
      setAsked(near.map(({ station }) => station.name));
      begin({
        here: end(here),
        there: near.flatMap(({ station }) => (station.position ? [end(station.position)] : [])),
        frequencyMHz: VOICE_MHZ,
      });
    };
    ask();
    const timer = setInterval(ask, REACH_EVERY_MS);
    return () => clearInterval(timer);
    // Asked anew every half minute with what is there then, not with each packet.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [isThere, watts]);
  return useMemo(
    () =>
      new Map(
        asked.flatMap((name, i) => {
          const chance = answer?.chances[i];
          return chance === undefined
            ? []
            : [[name, reachWords(chance, answer?.isGroundKnown === true)] as const];
        }),
      ),
    [asked, answer],
  );
}

export function reachWords(chance: number, isGroundKnown: boolean): string {
  const word =
    chance >= 0.8
      ? 'in direct voice reach'
      : chance >= 0.4
        ? 'perhaps in voice reach'
        : 'not in direct voice reach';
  return isGroundKnown ? word : `${word}, over flat ground`;
}
