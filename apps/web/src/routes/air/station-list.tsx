import { memo, useState, type KeyboardEvent } from 'react';
import { ToggleGroup } from 'radix-ui';
import { describeFrequency, describeWeather } from '@mistpeak/core/aprs/describe';
import { symbolName } from '@mistpeak/core/aprs/symbols';
import { callWithoutSsid } from '@mistpeak/core/callsign/callsign';
import { wayTo } from '@mistpeak/core/geo/position';
import { formatDistance } from '@mistpeak/core/units/units';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { StationView } from '@mistpeak/contract/station';
import { useNow } from '../../live/now';
import { usePacedLive } from '../../live/paced';
import type { LiveState } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Compass } from '../../pieces/compass';
import { WayMark } from '../../pieces/way-mark';
import { SymbolMark } from '../../pieces/symbol-mark';
import { LISTED_MS, THERE_MS } from '../../live/ageing';

const ROWS = 300;
/** A busy channel changes the list many times a second; it is drawn anew at this pace. */
const PACE_MS = 500;
/** Farther than any place on earth. */
const FAR_KM = 1e6;
const stationsOf = ({ stations }: LiveState) => stations;

interface Placed {
  readonly station: StationView;
  readonly way: { readonly distanceKm: number; readonly bearingDeg: number } | undefined;
}

export function StationList({
  operator,
  selected,
  select,
}: {
  operator: OperatorView;
  selected: string | undefined;
  select: (name: string) => void;
}) {
  const stations = usePacedLive(stationsOf, PACE_MS);
  const nowMs = useNow(5000);
  const [order, setOrder] = useState<'nearest' | 'latest'>('nearest');
  const others = [...stations.values()]
    .filter(({ name, heardAtMs }) => callWithoutSsid(name) !== operator.call && nowMs - heardAtMs < LISTED_MS)
    .map((station) => place(station, operator));
  const there = others.filter(({ station }) => nowMs - station.heardAtMs < THERE_MS).length;
  const shown = others.sort(order === 'nearest' ? byDistance : byTime).slice(0, ROWS);
  const stop = shown.find(({ station }) => station.name === selected)?.station.name;
  return (
    <section
      aria-label="Stations"
      className="min-h-0 overflow-y-auto border-l border-line bg-sheet max-md:order-1 max-md:border-b max-md:border-l-0"
    >
      <div className="flex items-baseline justify-between gap-2 px-5 pt-3">
        <h2>{order === 'nearest' ? 'Nearest first' : 'Latest first'}</h2>
        <ToggleGroup.Root
          type="single"
          value={order}
          onValueChange={(value) => value && setOrder(value as typeof order)}
          aria-label="Order"
          className="flex text-[12.5px]"
        >
          {(['nearest', 'latest'] as const).map((one) => (
            <ToggleGroup.Item
              key={one}
              value={one}
              className="border border-edge px-2 py-0.5 first:rounded-l-md last:rounded-r-md last:border-l-0 data-[state=on]:bg-ink data-[state=on]:text-paper max-md:min-h-11"
            >
              {one}
            </ToggleGroup.Item>
          ))}
        </ToggleGroup.Root>
      </div>
      <p className="px-5 pb-2 text-[13px] text-ink2">{there} heard in the last 30 min</p>
      {shown.length === 0 && (
        <p className="px-5 py-3 text-[14px] text-ink2">
          No station yet: whoever sends a packet appears here.
        </p>
      )}
      <ul onKeyDown={moveBetweenRows}>
        {shown.map(({ station, way }, i) => (
          <StationRow
            key={station.name}
            station={station}
            way={way}
            operator={operator}
            nowMs={nowMs}
            isSelected={station.name === selected}
            isStop={station.name === stop || (stop === undefined && i === 0)}
            select={select}
          />
        ))}
      </ul>
    </section>
  );
}

/** The list is one stop for Tab; arrows, Home and End go from row to row (WAI-ARIA practices, roving tabindex). */
function moveBetweenRows(event: KeyboardEvent<HTMLUListElement>): void {
  const rows = [...event.currentTarget.querySelectorAll('button')];
  const at = rows.findIndex((row) => row === document.activeElement);
  const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: rows.length - 1 }[event.key];
  if (to === undefined) return;
  event.preventDefault();
  rows[Math.min(rows.length - 1, Math.max(0, to))]?.focus();
}

const StationRow = memo(function StationRow({
  station,
  way,
  operator,
  nowMs,
  isSelected,
  isStop,
  select,
}: Placed & {
  operator: OperatorView;
  nowMs: number;
  isSelected: boolean;
  isStop: boolean;
  select: (name: string) => void;
}) {
  const ageMs = nowMs - station.heardAtMs;
  const isOld = ageMs > THERE_MS;
  const isByInternet = wasLastByInternet(station);
  const how = isByInternet
    ? 'internet'
    : station.hops === 0
      ? 'direct'
      : station.hops === 1
        ? '1 hop'
        : `${station.hops} hops`;
  return (
    <li className="border-t border-line">
      <button
        type="button"
        onClick={() => select(station.name)}
        aria-pressed={isSelected}
        tabIndex={isStop ? 0 : -1}
        className={`grid w-full grid-cols-[38px_1fr_auto] gap-x-2.5 px-5 py-2 text-left ${isSelected ? 'bg-raise shadow-[inset_3px_0_var(--provedfill)]' : 'hover:bg-raise'} ${isOld ? 'text-ink3' : ''}`}
      >
        {way ? (
          <Compass bearingDeg={way.bearingDeg} />
        ) : (
          <span className="row-span-2 grid place-items-center text-ink3">–</span>
        )}
        <span className="flex items-center gap-1.5 truncate">
          {station.symbol && <SymbolMark symbol={station.symbol} size={18} />}
          <b className="font-mono text-[14.5px] font-[620]">{station.name}</b>
        </span>
        <span className="text-right font-mono text-[13px]">
          {way
            ? `${formatDistance(way.distanceKm, operator.units)} ${degreesOf(way.bearingDeg)}`
            : station.position
              ? 'my place?'
              : 'no place'}
        </span>
        <span className="truncate text-[13px] text-ink2">{about(station, operator)}</span>
        <span className="text-right text-[12.5px] text-ink3">
          <WayMark byInternet={isByInternet} /> {how}, <span className="font-mono">{formatAge(ageMs)}</span>
        </span>
      </button>
    </li>
  );
});

/** Its last packet came by the internet side, which proves no radio. */
function wasLastByInternet({ radioAtMs = 0, internetAtMs }: StationView): boolean {
  return internetAtMs !== undefined && internetAtMs > radioAtMs;
}

/** `084°`, beside the sector that the compass shows. */
const degreesOf = (bearingDeg: number): string => `${String(Math.round(bearingDeg) % 360).padStart(3, '0')}°`;

function about(station: StationView, { units }: OperatorView): string {
  if (station.weather) return describeWeather(station.weather, units);
  if (station.frequency)
    return [describeFrequency(station.frequency, units), station.comment].join(' ').trim();
  if (station.comment) return station.comment;
  return station.symbol ? symbolName(station.symbol) : 'no comment';
}

/** A station's way is reckoned once for each of its positions. */
const placed = new WeakMap<StationView, { operator: OperatorView; placed: Placed }>();

function place(station: StationView, operator: OperatorView): Placed {
  const known = placed.get(station);
  if (known?.operator === operator) return known.placed;
  const fresh = {
    station,
    way: station.position && operator.position && wayTo(operator.position, station.position),
  };
  placed.set(station, { operator, placed: fresh });
  return fresh;
}

/** Of two at the same place, or at none, the one heard last must not push the other down: a busy list would never stand still. */
function byDistance(a: Placed, b: Placed): number {
  const byWay = (a.way?.distanceKm ?? FAR_KM) - (b.way?.distanceKm ?? FAR_KM);
  return byWay || a.station.name.localeCompare(b.station.name, 'en', { numeric: true });
}

function byTime(a: Placed, b: Placed): number {
  return b.station.heardAtMs - a.station.heardAtMs;
}
