import { ArrowRight } from 'lucide-react';
import { Link } from 'react-router';
import { describeFrequency, describeTelemetry, describeWeather } from '@mistpeak/core/aprs/describe';
import { symbolName } from '@mistpeak/core/aprs/symbols';
import { formatPosition } from '@mistpeak/core/geo/coordinates';
import { wayTo, windName, type Position } from '@mistpeak/core/geo/position';
import { formatHeight, formatDistance, formatSpeed } from '@mistpeak/core/units/units';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { StationView } from '@mistpeak/contract/station';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import type { ObjectBegun } from './own-objects';
import { SymbolMark } from '../../pieces/symbol-mark';

/** One station in a few words, with the way to its own page. */
export function StationNote({
  name,
  operator,
  takeOver,
}: {
  name: string;
  operator: OperatorView;
  /** Absent: whoever looks may not. */
  takeOver?: ((begun: ObjectBegun) => void) | undefined;
}) {
  const station = useLive((state) => state.stations.get(name));
  const nowMs = useNow(1000);
  if (!station) return <p className="font-mono">{name}</p>;
  return (
    <section aria-label="The selected station" className="flex flex-col gap-1">
      <h2 className="flex items-center gap-2 pr-8 font-mono text-[16px]">
        {station.symbol && <SymbolMark symbol={station.symbol} />}
        {name}
      </h2>
      <p className="text-[13.5px] text-ink2">{factsOf(station, operator, nowMs).join(' · ')}</p>
      {station.comment && <p className="text-[14px]">{station.comment}</p>}
      <Link
        to={`/air/${encodeURIComponent(name)}`}
        className="flex w-fit items-center gap-1 text-[13.5px] font-[600] text-proved underline-offset-2 hover:underline max-md:min-h-11"
      >
        All that it sent, and how it came
        <ArrowRight className="size-3.5" aria-hidden />
      </Link>
      {takeOver && station.kind === 'object' && station.position && (
        <Button
          className="w-fit"
          onClick={() =>
            takeOver({
              place: station.position as Position,
              name,
              comment: station.comment ?? '',
              ...(station.symbol
                ? { symbolTable: station.symbol.table, symbolCode: station.symbol.code }
                : {}),
            })
          }
        >
          Take it over …
        </Button>
      )}
    </section>
  );
}

/** What is known of a station, each fact in a few words. */
export function factsOf(station: StationView, operator: OperatorView, nowMs: number): string[] {
  const {
    position,
    ambiguityDigits,
    symbol,
    speedMps,
    courseDeg,
    altitudeM,
    weather,
    frequency,
    telemetry,
    kind,
    sender,
    passedOn,
  } = station;
  const { units, coordinates } = operator;
  const way = position && operator.position && wayTo(operator.position, position);
  return [
    ...(symbol ? [symbolName(symbol)] : []),
    ...(kind === 'object'
      ? [`told by ${sender}`]
      : passedOn
        ? [`not heard itself: ${sender} passed it on`]
        : []),
    ...(way
      ? [
          `${ambiguityDigits ? 'about ' : ''}${formatDistance(way.distanceKm, units)} ${windName(way.bearingDeg)}, ${Math.round(way.bearingDeg)}°`,
        ]
      : [position ? 'how far is not known: say your place in Settings' : 'no place told']),
    ...(position ? [formatPosition(position, coordinates, ambiguityDigits)] : []),
    ...(speedMps === undefined ? [] : [formatSpeed(speedMps, units)]),
    ...(courseDeg === undefined || !speedMps ? [] : [`towards ${windName(courseDeg)}`]),
    ...(altitudeM === undefined ? [] : [formatHeight(altitudeM, units)]),
    ...(frequency ? [describeFrequency(frequency, units)] : []),
    ...(weather ? [describeWeather(weather, units)] : []),
    ...(telemetry ? [`telemetry ${describeTelemetry(telemetry)}`] : []),
    `heard ${formatAge(nowMs - station.heardAtMs)} ago`,
  ];
}
