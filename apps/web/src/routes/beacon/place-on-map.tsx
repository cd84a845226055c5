import { useMemo } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { formatPlace, parsePlace } from '@mistpeak/core/geo/place';
import type { OperatorView } from '@mistpeak/contract/operator';
import MarkedMap, { type Mark } from '../../pieces/map/marked-map';

/** A place, chosen with one press on the map. */
export default function PlaceOnMap({
  operator,
  place,
  take,
}: {
  operator: OperatorView;
  place: string;
  take: (place: string) => void;
}) {
  const read = parsePlace(place);
  const marks = useMemo((): Mark[] => {
    const position = parsePlace(place);
    return isMalformed(position) ? [] : [{ id: 'here', position, kind: 'me' }];
  }, [place]);
  return (
    <MarkedMap
      label="Map to choose a place on. Coordinates in the field above do the same."
      operator={operator}
      centre={isMalformed(read) ? (operator.position ?? { latitudeDeg: 0, longitudeDeg: 0 }) : read}
      marks={marks}
      pick={(position) => take(formatPlace(position))}
    />
  );
}
