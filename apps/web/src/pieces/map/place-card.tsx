import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatPosition } from '@mistpeak/core/geo/coordinates';
import { formatLocator } from '@mistpeak/core/geo/locator';
import { wayTo, type Position } from '@mistpeak/core/geo/position';
import { formatDistance } from '@mistpeak/core/units/units';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { ReactNode } from 'react';
import { Button } from '../button';

/** A place that was clicked: its coordinates in every form, and how far it is from me and from the place before. */
export function PlaceCard({
  place,
  from,
  operator,
  measureFrom,
  close,
  children,
}: {
  place: Position;
  /** Where a measuring began. */
  from: Position | undefined;
  operator: OperatorView;
  measureFrom: (place: Position | undefined) => void;
  close: () => void;
  children?: ReactNode;
}) {
  const locator = formatLocator(place, 8);
  const away = (origin: Position): string => {
    const { distanceKm, bearingDeg } = wayTo(origin, place);
    return `${formatDistance(distanceKm, operator.units)}, ${String(Math.round(bearingDeg) % 360).padStart(3, '0')}°`;
  };
  return (
    <section
      aria-label="The place"
      className="absolute top-3 left-3 z-10 flex w-[300px] flex-col gap-1.5 rounded-xl border border-edge bg-raise px-4 py-3 text-[13.5px] max-md:right-3 max-md:w-auto"
    >
      <button
        type="button"
        aria-label="Close the place"
        onClick={close}
        className="absolute top-1 right-1 size-8 rounded text-ink2 hover:text-ink max-md:size-11"
      >
        ×
      </button>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 font-mono text-[13px] [&_dt]:font-sans [&_dt]:text-ink3">
        <dt>Degrees</dt>
        <dd>{formatPosition(place, 'decimal')}</dd>
        <dt>Minutes</dt>
        <dd>{formatPosition(place, 'minutes')}</dd>
        <dt>Locator</dt>
        <dd>{isMalformed(locator) ? '' : locator}</dd>
        {operator.position && (
          <>
            <dt>From me</dt>
            <dd>{away(operator.position)}</dd>
          </>
        )}
        {from && (
          <>
            <dt>Measured</dt>
            <dd>{away(from)}</dd>
          </>
        )}
      </dl>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => measureFrom(from ? undefined : place)}>
          {from ? 'End measuring' : 'Measure from here'}
        </Button>
        {children}
      </div>
    </section>
  );
}
