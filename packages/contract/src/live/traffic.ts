import type { ChannelPast } from '@mistpeak/core/stations/channel-past';
import type { FrameRecord } from '../frame.js';
import type { TallyView } from '../link.js';
import type { StationView } from '../station.js';

/** What is on the air: frames, what held the channels, who is there. */
export interface TrafficSnapshot {
  readonly frames: readonly FrameRecord[];
  /** What held each channel, also where there were more frames than are shown. */
  readonly channels: readonly { readonly linkId: string; readonly past: ChannelPast }[];
  readonly stations: readonly StationView[];
  readonly tallies: readonly TallyView[];
}

export interface TrafficEvents {
  frame: FrameRecord;
  /** ids of frames that the database has now. */
  stored: readonly string[];
  tally: TallyView;
}
