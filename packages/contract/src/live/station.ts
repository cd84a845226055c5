import type { OperatorView } from '../operator.js';
import type { OwnStationView } from '../own-station.js';

/** The licence holder and his stations. */
export interface StationSnapshot {
  readonly operator: OperatorView | null;
  readonly ownStations: readonly OwnStationView[];
}

export interface StationEvents {
  operator: OperatorView;
  'own-stations': readonly OwnStationView[];
}
