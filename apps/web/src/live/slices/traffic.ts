import { isMalformed } from '@mistpeak/core/bits/malformed';
import { laneOf, noteOnAir, type ChannelPast } from '@mistpeak/core/stations/channel-past';
import { hear, stationName } from '@mistpeak/core/stations/station';
import { isScrap, type FrameRecord } from '@mistpeak/contract/frame';
import type { LinkView, TallyView } from '@mistpeak/contract/link';
import type { TrafficEvents } from '@mistpeak/contract/live/traffic';
import type { StationView } from '@mistpeak/contract/station';
import { readRecord } from '../views';
import { mapBy, withEntry, type Slice } from './slice';

export const SHOWN_FRAMES = 400;

export interface TrafficState {
  /** Oldest first. */
  readonly frames: readonly FrameRecord[];
  /** What held each channel in the last five minutes, by link. */
  readonly channels: ReadonlyMap<string, ChannelPast>;
  readonly stations: ReadonlyMap<string, StationView>;
  readonly tallies: ReadonlyMap<string, TallyView>;
}

/** links: how fast they are on the air, which another slice keeps. */
type Seen = TrafficState & { readonly links?: readonly LinkView[] };

export const traffic: Slice<Seen, keyof TrafficEvents> = {
  empty: { frames: [], channels: new Map(), stations: new Map(), tallies: new Map() },
  ofSnapshot: ({ frames, channels, stations, tallies }) => ({
    frames,
    channels: new Map(channels.map(({ linkId, past }) => [linkId, past])),
    stations: mapBy(stations, ({ name }) => name),
    tallies: mapBy(tallies, ({ linkId }) => linkId),
  }),
  on: {
    frame: (state, frame) => ({
      frames: [...state.frames, frame].slice(-SHOWN_FRAMES),
      channels: withOnAir(state, frame),
      stations: withHeard(state.stations, frame),
    }),
    stored: ({ frames }, ids) => ({ frames: markStored(frames, ids) }),
    tally: ({ tallies }, tally) => ({ tallies: withEntry(tallies, tally.linkId, tally) }),
  },
};

/** The same fold that the server keeps, so that a frame need not be followed by its station. */
function withHeard(stations: TrafficState['stations'], record: FrameRecord): TrafficState['stations'] {
  const { view } = readRecord(record);
  if (record.direction === 'sent' || isMalformed(view)) return stations;
  const heard = {
    frame: view.frame,
    report: view.report,
    heardAtMs: record.atMs,
    frameId: record.id,
    byInternet: record.origin === 'internet',
  };
  const name = stationName(heard);
  return withEntry(stations, name, hear(stations.get(name), heard));
}

/** As the server keeps it, from the same frames. */
function withOnAir({ channels, links }: Seen, record: FrameRecord): TrafficState['channels'] {
  const { view, bits } = readRecord(record);
  // What came by the internet held no channel.
  if (isScrap(record) || record.trouble === 'not AX.25' || record.line !== undefined) return channels;
  const { airRate = 1200 } = links?.find(({ id }) => id === record.linkId)?.settings ?? {};
  const lane = laneOf(record.direction, isMalformed(view) ? undefined : view.path.hops);
  const frame = { atMs: record.atMs, lane, airMs: (bits * 1000) / airRate };
  return withEntry(channels, record.linkId, noteOnAir(channels.get(record.linkId) ?? [], frame));
}

function markStored(frames: readonly FrameRecord[], ids: readonly string[]): readonly FrameRecord[] {
  const stored = new Set(ids);
  return frames.map((frame) => (stored.has(frame.id) ? { ...frame, stored: true } : frame));
}
