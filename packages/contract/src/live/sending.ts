import type { BeaconView, TransmissionView } from '../beacon.js';
import type { LockView } from '../link.js';

/** What may be sent, is to be sent, and was. */
export interface SendingSnapshot {
  readonly locks: readonly LockView[];
  readonly transmissions: readonly TransmissionView[];
  readonly beacon: BeaconView | null;
}

export interface SendingEvents {
  lock: LockView;
  transmission: TransmissionView;
  beacon: BeaconView;
}
