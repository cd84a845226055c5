import type { BeaconSettings, TransmissionView } from './beacon.js';
import type { ChannelPast } from '@mistpeak/core/stations/channel-past';
import type { Item } from '@mistpeak/core/kit/item';
import type { ChainView, TickView } from './chain.js';
import type { FrameRecord } from './frame.js';
import type { HealthView } from './health.js';
import type { LinkView, LockView, PortListeningView, TallyView } from './link.js';
import type { OperatorView } from './operator.js';
import type { OwnStationView } from './own-station.js';
import type { EvidenceView } from './proof.js';
import type { TrialView } from './record.js';
import type { SharingView } from './sharing.js';
import type { StationView } from './station.js';

/** What a page shows, whole: sent first, and again when a page was away too long to catch up. */
export interface Snapshot {
  readonly operator: OperatorView | null;
  readonly links: readonly LinkView[];
  readonly ownStations: readonly OwnStationView[];
  readonly kit: readonly Item[];
  readonly chains: readonly ChainView[];
  /** The last word on each step of each sheet. */
  readonly ticks: readonly TickView[];
  readonly trials: readonly TrialView[];
  readonly evidence: readonly EvidenceView[];
  readonly sharing: readonly SharingView[];
  readonly locks: readonly LockView[];
  readonly tallies: readonly TallyView[];
  readonly frames: readonly FrameRecord[];
  /** What held each channel, also where there were more frames than are shown. */
  readonly channels: readonly { readonly linkId: string; readonly past: ChannelPast }[];
  readonly stations: readonly StationView[];
  readonly transmissions: readonly TransmissionView[];
  readonly beacon: BeaconSettings | null;
  readonly health: HealthView;
  readonly nowMs: number;
}

interface LiveData {
  snapshot: Snapshot;
  frame: FrameRecord;
  /** ids of frames that the database has now. */
  stored: readonly string[];
  link: LinkView;
  'link-removed': { readonly id: string };
  'own-stations': readonly OwnStationView[];
  kit: readonly Item[];
  chains: readonly ChainView[];
  tick: TickView;
  trials: readonly TrialView[];
  evidence: EvidenceView;
  'port-listening': PortListeningView;
  sharing: SharingView;
  lock: LockView;
  tally: TallyView;
  transmission: TransmissionView;
  operator: OperatorView;
  beacon: BeaconSettings;
  health: HealthView;
}

/** Between events the stream says this often that it lives; it has no number. */
export const PULSE = 'pulse';
export const PULSE_EVERY_MS = 3000;

export type LiveKind = keyof LiveData;

/** One message of the stream; seq grows by one, and a page resumes after the last that it saw. */
export type LiveEvent = {
  [Kind in LiveKind]: {
    readonly seq: number;
    readonly epoch: string;
    readonly kind: Kind;
    readonly data: LiveData[Kind];
  };
}[LiveKind];

export type LivePayload = {
  [Kind in LiveKind]: { readonly kind: Kind; readonly data: LiveData[Kind] };
}[LiveKind];
