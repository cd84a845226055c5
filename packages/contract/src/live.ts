import type { HealthView } from './health.js';
import type { BeaconWaysEvents, BeaconWaysSnapshot } from './live/beacon-ways.js';
import type { ChainsEvents, ChainsSnapshot } from './live/chains.js';
import type { DepartureEvents, DepartureSnapshot } from './live/departure.js';
import type { FieldEvents, FieldSnapshot } from './live/field.js';
import type { GatewaysEvents, GatewaysSnapshot } from './live/gateways.js';
import type { GatingEvents, GatingSnapshot } from './live/gating.js';
import type { InternetEvents, InternetSnapshot } from './live/internet.js';
import type { LevelsEvents, LevelsSnapshot } from './live/levels.js';
import type { LinksEvents, LinksSnapshot } from './live/links.js';
import type { LogbookEvents, LogbookSnapshot } from './live/logbook.js';
import type { MailEvents, MailSnapshot } from './live/mail.js';
import type { MapsEvents, MapsSnapshot } from './live/maps.js';
import type { MessagesEvents, MessagesSnapshot } from './live/messages.js';
import type { OwnObjectsEvents, OwnObjectsSnapshot } from './live/own-objects.js';
import type { PathLabEvents, PathLabSnapshot } from './live/path-lab.js';
import type { PracticeEvents, PracticeSnapshot } from './live/practice.js';
import type { ProgramsEvents, ProgramsSnapshot } from './live/programs.js';
import type { SendingEvents, SendingSnapshot } from './live/sending.js';
import type { SessionsEvents, SessionsSnapshot } from './live/sessions.js';
import type { StationEvents, StationSnapshot } from './live/station.js';
import type { TrafficEvents, TrafficSnapshot } from './live/traffic.js';
import type { TrueTimeEvents, TrueTimeSnapshot } from './live/true-time.js';
import type { WatchEvents, WatchSnapshot } from './live/watch.js';
import type { RemovalView } from './removals.js';

/**
 * What a page shows, whole: sent first, and again when a page was away too long to catch up. Each subject has its part; what
 * is long (transcripts, mail, the log beyond what is shown) is asked for by pages and stands in none of them.
 */
export interface Snapshot
  extends
    StationSnapshot,
    LinksSnapshot,
    TrafficSnapshot,
    SendingSnapshot,
    ChainsSnapshot,
    GatingSnapshot,
    InternetSnapshot,
    LevelsSnapshot,
    MailSnapshot,
    MessagesSnapshot,
    PathLabSnapshot,
    BeaconWaysSnapshot,
    ProgramsSnapshot,
    SessionsSnapshot,
    WatchSnapshot,
    MapsSnapshot,
    OwnObjectsSnapshot,
    FieldSnapshot,
    GatewaysSnapshot,
    LogbookSnapshot,
    DepartureSnapshot,
    TrueTimeSnapshot,
    PracticeSnapshot {
  readonly health: HealthView;
  /** What was removed within the last minute. */
  readonly removals: readonly RemovalView[];
  readonly nowMs: number;
}

interface LiveData
  extends
    StationEvents,
    LinksEvents,
    TrafficEvents,
    SendingEvents,
    ChainsEvents,
    GatingEvents,
    InternetEvents,
    LevelsEvents,
    MailEvents,
    MessagesEvents,
    PathLabEvents,
    BeaconWaysEvents,
    ProgramsEvents,
    SessionsEvents,
    WatchEvents,
    MapsEvents,
    OwnObjectsEvents,
    FieldEvents,
    GatewaysEvents,
    LogbookEvents,
    DepartureEvents,
    TrueTimeEvents,
    PracticeEvents {
  snapshot: Snapshot;
  health: HealthView;
  removals: readonly RemovalView[];
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
