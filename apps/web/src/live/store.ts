import { create } from 'zustand';
import type { TickView } from '@mistpeak/contract/chain';
import { ALL_WELL, type HealthView } from '@mistpeak/contract/health';
import type { LiveEvent, LiveKind, Snapshot } from '@mistpeak/contract/live';
import type { TrueTimeView } from '@mistpeak/contract/true-time';
import type { RemovalView } from '@mistpeak/contract/removals';
import { beaconWays, type BeaconWaysState } from './slices/beacon-ways';
import { chains, type ChainsState } from './slices/chains';
import { gating, type GatingState } from './slices/gating';
import { internet, type InternetState } from './slices/internet';
import { levels, type LevelsState } from './slices/levels';
import { links, type LinksState } from './slices/links';
import { mail, type MailState } from './slices/mail';
import { maps, type MapsState } from './slices/maps';
import { messages, type MessagesState } from './slices/messages';
import { field, type FieldState } from './slices/field';
import { gateways, type GatewaysState } from './slices/gateways';
import { departure, type DepartureState } from './slices/departure';
import { logbook, type LogbookState } from './slices/logbook';
import { ownObjects, type OwnObjectsState } from './slices/own-objects';
import { pathLab, type PathLabState } from './slices/path-lab';
import { practice, type PracticeState } from './slices/practice';
import { programs, type ProgramsState } from './slices/programs';
import { sending, type SendingState } from './slices/sending';
import { sessions, type SessionsState } from './slices/sessions';
import { station, type StationState } from './slices/station';
import { traffic, type TrafficState } from './slices/traffic';
import { trueTime, type TrueTimeState } from './slices/true-time';
import { watch, type WatchState } from './slices/watch';

export { SHOWN_FRAMES } from './slices/traffic';

/** What the server has told this page, folded together: one slice for each subject. */
export interface LiveState
  extends
    StationState,
    LinksState,
    TrafficState,
    SendingState,
    ChainsState,
    GatingState,
    InternetState,
    LevelsState,
    MailState,
    MessagesState,
    PathLabState,
    BeaconWaysState,
    ProgramsState,
    SessionsState,
    WatchState,
    MapsState,
    OwnObjectsState,
    FieldState,
    GatewaysState,
    LogbookState,
    DepartureState,
    TrueTimeState,
    PracticeState {
  readonly connection: 'connecting' | 'open' | 'away';
  readonly health: HealthView;
  readonly removals: readonly RemovalView[];
  /** What is shown was kept in this browser at that time, ms since 1970 by its clock; absent: the server has told it. */
  readonly keptAtMs?: number | undefined;
}

const SLICES = [
  station,
  links,
  traffic,
  sending,
  chains,
  gating,
  internet,
  levels,
  mail,
  messages,
  pathLab,
  beaconWays,
  programs,
  sessions,
  watch,
  maps,
  ownObjects,
  field,
  gateways,
  logbook,
  departure,
  trueTime,
  practice,
] as const;

const EMPTY = {
  ...Object.assign({}, ...SLICES.map(({ empty }) => empty)),
  connection: 'connecting',
  health: ALL_WELL,
  removals: [],
} as LiveState;

export const useLive = create<LiveState>(() => EMPTY);

type Fold = (state: LiveState, data: never) => Partial<LiveState>;

const FOLDS = {
  snapshot: (_: LiveState, snapshot: Snapshot) => fromSnapshot(snapshot),
  health: (_: LiveState, health: HealthView) => ({ health }),
  removals: (_: LiveState, removals: readonly RemovalView[]) => ({ removals }),
  ...station.on,
  ...links.on,
  ...traffic.on,
  ...sending.on,
  ...chains.on,
  ...gating.on,
  ...internet.on,
  ...levels.on,
  ...mail.on,
  ...messages.on,
  ...pathLab.on,
  ...beaconWays.on,
  ...programs.on,
  ...sessions.on,
  ...watch.on,
  ...maps.on,
  ...ownObjects.on,
  ...field.on,
  ...gateways.on,
  ...logbook.on,
  ...departure.on,
  ...trueTime.on,
  ...practice.on,
} satisfies Record<LiveKind, Fold>;

/** Many events as one change, so that a burst is drawn once. */
export function applyEvents(events: readonly LiveEvent[]): void {
  useLive.setState((state) => events.reduce(fold, state));
}

export function setConnection(connection: LiveState['connection']): void {
  useLive.setState({ connection });
}

/** A tick that the server has just answered with. */
export function noteTick(tick: TickView): void {
  useLive.setState((state) => chains.on.tick(state, tick));
}

/** What the server has just answered of its clock. */
export function noteTrueTime(now: TrueTimeView): void {
  useLive.setState((state) => trueTime.on.trueTime(state, now));
}

function fold(state: LiveState, event: LiveEvent): LiveState {
  return { ...state, ...(FOLDS[event.kind] as Fold)(state, event.data as never) };
}

function fromSnapshot(snapshot: Snapshot): Partial<LiveState> {
  return {
    ...(Object.assign({}, ...SLICES.map(({ ofSnapshot }) => ofSnapshot(snapshot))) as Partial<LiveState>),
    connection: 'open',
    health: snapshot.health,
    removals: snapshot.removals,
    keptAtMs: undefined,
  };
}
