import type { Position } from '@mistpeak/core/geo/position';
import type { OperatorView } from '@mistpeak/contract/operator';
import MarkedMap from '../../pieces/map/marked-map';

/** A map to draw a way on. */
export default function TrackByHand({
  operator,
  take,
}: {
  operator: OperatorView;
  take: (points: readonly Position[]) => void;
}) {
  return (
    <div className="flex flex-col gap-1">
      <p className="text-[13.5px] text-ink2">Press along the way; a double press ends it.</p>
      <MarkedMap
        label="Map to draw a way on. A track from a file does the same."
        operator={operator}
        centre={operator.position ?? { latitudeDeg: 0, longitudeDeg: 0 }}
        marks={NONE}
        drawn={take}
      />
    </div>
  );
}

const NONE: readonly never[] = [];
