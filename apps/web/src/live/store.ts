import { create } from 'zustand';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { hear, stationName } from '@mistpeak/core/stations/station';
import type { BeaconSettings, TransmissionView } from '@mistpeak/contract/beacon';
import type { Item } from '@mistpeak/core/kit/item';
import type { ChainView, TickView } from '@mistpeak/contract/chain';
import { laneOf, noteOnAir, type ChannelPast } from '@mistpeak/core/stations/channel-past';
import { isScrap, type FrameRecord } from '@mistpeak/contract/frame';
import { ALL_WELL, type HealthView } from '@mistpeak/contract/health';
import type { LinkView, LockView, PortListeningView, TallyView } from '@mistpeak/contract/link';
import type { LiveEvent, Snapshot } from '@mistpeak/contract/live';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { OwnStationView } from '@mistpeak/contract/own-station';
import type { EvidenceView } from '@mistpeak/contract/proof';
import type { TrialView } from '@mistpeak/contract/record';
import type { SharingView } from '@mistpeak/contract/sharing';
import type { StationView } from '@mistpeak/contract/station';
import { readRecord } from './views';

export const SHOWN_FRAMES = 400;
const MOST_EVIDENCE = 500;

/** What the server has told this page, folded together. */
export interface LiveState {
  readonly connection: 'connecting' | 'open' | 'away';
  readonly operator: OperatorView | null;
  readonly links: readonly LinkView[];
  readonly ownStations: readonly OwnStationView[];
  readonly kit: readonly Item[];
  /** Newest first. */
  readonly chains: readonly ChainView[];
  /** The last word on each step of each sheet, by chain and step. */
  readonly ticks: ReadonlyMap<string, TickView>;
  /** Newest first. */
  readonly trials: readonly TrialView[];
  /** The last few of each rung and link, oldest first. */
  readonly evidence: readonly EvidenceView[];
  /** By link; absent where it was never switched on. */
  readonly sharing: ReadonlyMap<string, SharingView>;
  /** By path: what is listened to, or was since this page is open. */
  readonly listening: ReadonlyMap<string, PortListeningView>;
  readonly locks: ReadonlyMap<string, LockView>;
  readonly tallies: ReadonlyMap<string, TallyView>;
  /** Oldest first. */
  readonly frames: readonly FrameRecord[];
  /** What held each channel in the last five minutes, by link. */
  readonly channels: ReadonlyMap<string, ChannelPast>;
  readonly stations: ReadonlyMap<string, StationView>;
  /** Newest first. */
  readonly transmissions: readonly TransmissionView[];
  readonly beacon: BeaconSettings | null;
  readonly health: HealthView;
  /** Server time less page time, ms: ages are reckoned by the server's clock. */
  readonly clockOffsetMs: number;
}

const EMPTY: LiveState = {
  connection: 'connecting',
  operator: null,
  links: [],
  ownStations: [],
  kit: [],
  chains: [],
  ticks: new Map(),
  trials: [],
  evidence: [],
  sharing: new Map(),
  listening: new Map(),
  locks: new Map(),
  tallies: new Map(),
  frames: [],
  channels: new Map(),
  stations: new Map(),
  transmissions: [],
  beacon: null,
  health: ALL_WELL,
  clockOffsetMs: 0,
};

export const useLive = create<LiveState>(() => EMPTY);

/** Many events as one change, so that a burst is drawn once. */
export function applyEvents(events: readonly LiveEvent[]): void {
  useLive.setState((state) => events.reduce(fold, state));
}

export function setConnection(connection: LiveState['connection']): void {
  useLive.setState({ connection });
}

/** A tick that the server has just answered with. */
export function noteTick(tick: TickView): void {
  useLive.setState(({ ticks }) => ({ ticks: withEntry(ticks, tickKey(tick), tick) }));
}

function fold(state: LiveState, event: LiveEvent): LiveState {
  switch (event.kind) {
    case 'snapshot':
      return { ...state, ...fromSnapshot(event.data) };
    case 'frame':
      return {
        ...state,
        frames: [...state.frames, event.data].slice(-SHOWN_FRAMES),
        channels: withOnAir(state, event.data),
        stations: withHeard(state.stations, event.data),
      };
    case 'stored':
      return { ...state, frames: markStored(state.frames, event.data) };
    case 'link':
      return { ...state, links: replaceById(state.links, event.data) };
    case 'link-removed':
      return { ...state, links: state.links.filter(({ id }) => id !== event.data.id) };
    case 'own-stations':
      return { ...state, ownStations: event.data };
    case 'kit':
      return { ...state, kit: event.data };
    case 'chains':
      return { ...state, chains: event.data };
    case 'tick':
      return { ...state, ticks: withEntry(state.ticks, tickKey(event.data), event.data) };
    case 'trials':
      return { ...state, trials: event.data };
    case 'evidence':
      return { ...state, evidence: [...state.evidence, event.data].slice(-MOST_EVIDENCE) };
    case 'port-listening':
      return { ...state, listening: withEntry(state.listening, event.data.path, event.data) };
    case 'sharing':
      return { ...state, sharing: withEntry(state.sharing, event.data.linkId, event.data) };
    case 'lock':
      return { ...state, locks: withEntry(state.locks, event.data.linkId, event.data) };
    case 'tally':
      return { ...state, tallies: withEntry(state.tallies, event.data.linkId, event.data) };
    case 'transmission':
      return { ...state, transmissions: newestFirst(replaceById(state.transmissions, event.data)) };
    case 'operator':
      return { ...state, operator: event.data };
    case 'beacon':
      return { ...state, beacon: event.data };
    case 'health':
      return { ...state, health: event.data };
  }
}

function fromSnapshot(snapshot: Snapshot): Partial<LiveState> {
  const {
    kit,
    chains,
    trials,
    operator,
    links,
    ownStations,
    frames,
    evidence,
    transmissions,
    beacon,
    health,
    nowMs,
  } = snapshot;
  return {
    connection: 'open',
    kit,
    chains,
    trials,
    operator,
    links,
    ownStations,
    frames,
    evidence,
    transmissions,
    beacon,
    health,
    ticks: new Map(snapshot.ticks.map((tick) => [tickKey(tick), tick])),
    sharing: new Map(snapshot.sharing.map((one) => [one.linkId, one])),
    locks: new Map(snapshot.locks.map((lock) => [lock.linkId, lock])),
    tallies: new Map(snapshot.tallies.map((tally) => [tally.linkId, tally])),
    channels: new Map(snapshot.channels.map(({ linkId, past }) => [linkId, past])),
    stations: new Map(snapshot.stations.map((station) => [station.name, station])),
    clockOffsetMs: nowMs - Date.now(),
  };
}

export const tickKey = ({ chainId, stepId }: Pick<TickView, 'chainId' | 'stepId'>): string =>
  `${chainId} ${stepId}`;

function withEntry<Value>(
  map: ReadonlyMap<string, Value>,
  key: string,
  value: Value,
): ReadonlyMap<string, Value> {
  return new Map(map).set(key, value);
}

/** The same fold that the server keeps, so that a frame need not be followed by its station. */
function withHeard(stations: LiveState['stations'], record: FrameRecord): LiveState['stations'] {
  const { view } = readRecord(record);
  if (record.direction === 'sent' || isMalformed(view)) return stations;
  const heard = { frame: view.frame, report: view.report, heardAtMs: record.atMs, frameId: record.id };
  const name = stationName(heard);
  return withEntry(stations, name, hear(stations.get(name), heard));
}

/** As the server keeps it, from the same frames. */
function withOnAir({ channels, links }: LiveState, record: FrameRecord): LiveState['channels'] {
  const { view, bits } = readRecord(record);
  if (isScrap(record) || record.trouble === 'not AX.25') return channels;
  const { airRate = 1200 } = links.find(({ id }) => id === record.linkId)?.settings ?? {};
  const lane = laneOf(record.direction, isMalformed(view) ? undefined : view.path.hops);
  const frame = { atMs: record.atMs, lane, airMs: (bits * 1000) / airRate };
  return withEntry(channels, record.linkId, noteOnAir(channels.get(record.linkId) ?? [], frame));
}

function replaceById<Item extends { readonly id: string }>(
  items: readonly Item[],
  item: Item,
): readonly Item[] {
  return items.some(({ id }) => id === item.id)
    ? items.map((one) => (one.id === item.id ? item : one))
    : [...items, item];
}

function newestFirst(transmissions: readonly TransmissionView[]): readonly TransmissionView[] {
  return [...transmissions].sort((a, b) => b.queuedAtMs - a.queuedAtMs);
}

function markStored(frames: readonly FrameRecord[], ids: readonly string[]): readonly FrameRecord[] {
  const stored = new Set(ids);
  return frames.map((frame) => (stored.has(frame.id) ? { ...frame, stored: true } : frame));
}
