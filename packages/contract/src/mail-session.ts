import 'reflect-metadata';
import type { Announced } from '@mistpeak/core/mail/lines';
import type { Ending, Phase } from '@mistpeak/core/mail/exchange';
import type { Box } from './mail.js';
import type { AccountView, MailSettingsView, MailWay } from './mail-settings.js';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsOptional,
  IsUUID,
  Matches,
  MaxLength,
  ValidateNested,
} from 'class-validator';

export class StartMail {
  @IsUUID()
  profileId!: string;

  /** For this session alone. */
  @IsOptional()
  @MaxLength(60)
  password?: string;

  /** The first connection, to prove the chain: nothing of the outbox is offered. */
  @IsOptional()
  @IsBoolean()
  nothingQueued?: boolean;
}

export class MailDecision {
  @Matches(/^[!-~]{1,12}$/)
  mid!: string;

  @IsIn(['yes', 'no', 'later'])
  answer!: 'yes' | 'no' | 'later';
}

export class DecideMail {
  @IsArray()
  @ArrayMaxSize(5)
  @ValidateNested({ each: true })
  @Type(() => MailDecision)
  decisions!: MailDecision[];
}

export class OrderSelfTest {
  /** In words: by which chain. */
  @MaxLength(200)
  chain!: string;
}

export interface SelfTestView {
  readonly number: number;
  readonly tag: string;
  readonly mid: string;
  readonly chain: string;
  readonly atMs: number;
  readonly sentAtMs?: number;
  readonly answeredAtMs?: number;
}

export interface MailLine {
  readonly atMs: number;
  readonly side: 'mine' | 'theirs' | 'told';
  readonly text: string;
}

/** A message in a session: how much of it is on the way. */
export interface CarriedMessage {
  readonly mid: string;
  readonly octets: number;
  readonly packedOctets: number;
  /** Of the container: confirmed by the way, or received. */
  readonly doneOctets: number;
  readonly state:
    | 'proposed'
    | 'under way'
    | 'taken'
    | 'had'
    | 'later'
    | 'held'
    | 'refused'
    | 'kept'
    | 'not wanted';
}

/** One call at one gateway, and what came of it. */
export interface MailAttempt {
  readonly gateway: string;
  readonly via: string;
  readonly frequencyMHz?: number;
  readonly atMs: number;
  /** Tuned, and the channel free: from here on it is the way that takes its time. */
  readonly calledAtMs?: number;
  readonly connectedAtMs?: number;
  readonly exchangeAtMs?: number;
  readonly endedAtMs?: number;
  readonly result:
    | Ending['kind']
    | 'no answer'
    | 'refused'
    | 'not tuned'
    | 'busy channel'
    | 'demo call'
    | 'under way'
    | 'locked'
    | 'no way';
  readonly words: string;
  readonly octetsOut: number;
  readonly octetsIn: number;
  readonly octetsPerSecond?: number;
  /** Frames that had to be sent again, on packet. */
  readonly resent?: number;
  readonly framesSent?: number;
  readonly levelDbfs?: number;
  readonly place: string;
  readonly loggedIn: boolean;
}

export const RUN_PHASES = ['tuning', 'waiting for quiet', 'calling', 'talking', 'closing', 'over'] as const;

/** A session, from its start to its end, over as many gateways as it takes. No word of any message is in it. */
export interface MailRunView {
  readonly id: string;
  readonly profileId: string;
  readonly profile: string;
  readonly way: MailWay;
  readonly calledBy: 'us' | 'them';
  readonly isScheduled: boolean;
  readonly startedAtMs: number;
  readonly endedAtMs?: number;
  readonly phase: (typeof RUN_PHASES)[number];
  readonly exchange: Phase;
  readonly gateway: string;
  readonly tuning?: { readonly frequencyMHz: number; readonly by: 'hand' | 'radio'; readonly words: string };
  readonly attempts: readonly MailAttempt[];
  readonly out: readonly CarriedMessage[];
  readonly in: readonly CarriedMessage[];
  readonly askedAbout: readonly string[];
  /** Told to be waiting there, and not proposed yet. */
  readonly announced: number;
  readonly msLeft?: number;
  readonly isStopping: boolean;
  readonly sessionId?: string;
  readonly modem?: { readonly isBusy: boolean; readonly waitingOctets?: number };
  readonly outcome?: {
    readonly ok: boolean;
    readonly happened: string;
    readonly means: string;
    readonly try: string;
    readonly said?: string;
  };
}

/** With the literal lines, and what was told of those that are asked about. */
export interface MailRunDetail {
  readonly run: MailRunView;
  readonly lines: readonly MailLine[];
  readonly announced: readonly Announced[];
  readonly subjects: Readonly<Record<string, string>>;
}

export interface GatewayHistory {
  readonly gateway: string;
  readonly attempts: readonly MailAttempt[];
}

/** All but the messages themselves; for whom may read mail. */
export interface MailDesk {
  readonly settings: MailSettingsView;
  readonly account: AccountView;
  readonly folders: readonly string[];
  readonly counts: Readonly<Record<Box, number>>;
  readonly selfTests: readonly SelfTestView[];
  readonly history: readonly GatewayHistory[];
  /** When the schedule calls next, by profile. */
  readonly nextAtMs: Readonly<Record<string, number>>;
  /** By profile: why it did not call when it was last due. */
  readonly notCalled: Readonly<Record<string, string>>;
  readonly ownAddresses: readonly string[];
  readonly listeningClosedBecause?: string;
}

/** What everybody may see of the mail: that there is some. */
export interface MailPulse {
  readonly unread: number;
  readonly waiting: number;
  /** Grows with every change of what is asked for. */
  readonly revision: number;
}
