import 'reflect-metadata';
import type { AutoAnswers } from '@mistpeak/core/messages/auto-answer';
import type { Correspondent } from '@mistpeak/core/messages/correspondents';
import type { Outgoing, Standing } from '@mistpeak/core/messages/entries';
import type { Net } from '@mistpeak/core/messages/nets';
import { FIELD_KINDS, type FieldKind, type FormField, type ServiceForm } from '@mistpeak/core/services/form';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { IsCallSign, IsPath } from './validators.js';
import { Versioned } from './versioned.js';

/** A message as the operator writes it. */
export class WriteMessage {
  @IsCallSign()
  from!: string;

  @Matches(/\S/, { message: 'to whom?' })
  @MaxLength(12, { message: 'an addressee has at most nine characters' })
  to!: string;

  /** Counted in octets where it is made; that is told with the reason. */
  @IsString()
  @MaxLength(200, { message: 'at most 67 octets' })
  text!: string;

  @IsUUID(undefined, { message: 'choose a way' })
  linkId!: string;

  @IsPath()
  path!: string;

  /** Of no use after so many minutes; left out: it goes on to its last try. */
  @IsOptional()
  @IsInt({ message: 'whole minutes from 1 to 1440' })
  @Min(1, { message: 'whole minutes from 1 to 1440' })
  @Max(1440, { message: 'whole minutes from 1 to 1440' })
  goodForMin?: number;
}

const TRIES = { message: 'from 1 to 12 tries' };
const GAP = { message: 'a gap from 10 s to an hour' };

export class NetSettings implements Net {
  @Matches(/\S/, { message: 'give it a name' })
  @MaxLength(40, { message: 'at most 40 characters' })
  name!: string;

  @IsInt()
  @Min(0)
  @Max(6)
  weekday!: number;

  @Matches(/^([01]\d|2[0-3]):[0-5]\d$/, { message: 'a time as 19:30' })
  time!: string;

  @IsInt()
  @Min(-720)
  @Max(840)
  zoneMin!: number;

  @Matches(/^[A-Za-z0-9-]{1,9}$/, { message: 'an addressee has at most nine characters' })
  addressee!: string;

  @Matches(/\S/, { message: 'what is to be sent?' })
  @MaxLength(67, { message: 'at most 67 octets' })
  template!: string;

  @IsInt()
  @Min(0)
  @Max(1440)
  remindMin!: number;
}

export class AutoAnswerSettings implements AutoAnswers {
  @IsBoolean()
  heardDirect!: boolean;

  @IsBoolean()
  heardStation!: boolean;

  @IsBoolean()
  way!: boolean;

  @IsBoolean()
  position!: boolean;

  @MaxLength(67, { message: 'at most 67 octets' })
  text!: string;
}

export class FormFieldSettings implements FormField {
  @Matches(/^\w{1,20}$/, { message: 'a name of letters and figures' })
  name!: string;

  @Matches(/\S/, { message: 'what is to be filled in?' })
  @MaxLength(40, { message: 'at most 40 characters' })
  label!: string;

  @IsIn([...FIELD_KINDS], { message: 'choose what it takes' })
  kind!: FieldKind;

  @IsOptional()
  @IsInt({ message: 'how many digits?' })
  @Min(1, { message: 'from 1 to 20 digits' })
  @Max(20, { message: 'from 1 to 20 digits' })
  digits?: number;

  @IsOptional()
  @Matches(/^\d{0,6}$/, { message: 'a prefix has up to six digits' })
  prefix?: string;

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(30)
  @MaxLength(20, { each: true, message: 'at most 20 characters' })
  words?: string[];
}

export class ServiceSettings implements ServiceForm {
  @Matches(/\S/, { message: 'give it a name' })
  @MaxLength(40, { message: 'at most 40 characters' })
  name!: string;

  @Matches(/^[A-Z0-9-]{1,9}$/, { message: 'an addressee has at most nine characters' })
  addressee!: string;

  @Matches(/\S/, { message: 'how is its text made?' })
  @MaxLength(67, { message: 'at most 67 characters' })
  template!: string;

  @IsArray()
  @ArrayMaxSize(6, { message: 'at most six fields' })
  @ValidateNested({ each: true })
  @Type(() => FormFieldSettings)
  fields!: FormFieldSettings[];

  @MaxLength(200, { message: 'at most 200 characters' })
  optIn!: string;

  @MaxLength(40, { message: 'at most 40 characters' })
  deliveredMark!: string;
}

/** How this book of messages works. */
export class MessageSettings extends Versioned {
  @IsInt(GAP)
  @Min(10, GAP)
  @Max(3600, GAP)
  firstGapS!: number;

  @IsInt(GAP)
  @Min(10, GAP)
  @Max(3600, GAP)
  longestGapS!: number;

  @IsInt(TRIES)
  @Min(1, TRIES)
  @Max(12, TRIES)
  tries!: number;

  @IsInt(TRIES)
  @Min(1, TRIES)
  @Max(12, TRIES)
  bulletinTries!: number;

  @IsBoolean()
  offersReplyAcks!: boolean;

  @IsArray()
  @ArrayMaxSize(30, { message: 'at most 30 groups' })
  @Matches(/^[A-Z0-9-]{1,9}$/, { each: true, message: 'a group has at most nine characters: A to Z, 0 to 9' })
  groups!: string[];

  @IsArray()
  @ArrayMaxSize(20, { message: 'at most 20 nets' })
  @ValidateNested({ each: true })
  @Type(() => NetSettings)
  nets!: NetSettings[];

  @IsArray()
  @ArrayMaxSize(20, { message: 'at most 20 services' })
  @ValidateNested({ each: true })
  @Type(() => ServiceSettings)
  services!: ServiceSettings[];

  @ValidateNested()
  @Type(() => AutoAnswerSettings)
  answers!: AutoAnswerSettings;
}

/** What of a conversation has been read: all up to that moment. */
export class ReadUpTo {
  @Matches(/^[!-~]{1,20}$/)
  conversation!: string;

  @IsInt()
  @Min(0)
  atMs!: number;
}

/** Every time in ms since 1970. */
export interface OutgoingView extends Omit<Outgoing, 'phase'> {
  readonly phase:
    | { readonly kind: 'queued'; readonly trouble?: string }
    | { readonly kind: 'leaving' }
    | { readonly kind: 'waiting'; readonly untilMs: number }
    | {
        readonly kind: 'acknowledged' | 'rejected';
        readonly by: string;
        readonly linkId: string;
        readonly afterMs: number;
        readonly atTry: number;
      }
    | { readonly kind: 'no answer' | 'told' | 'cancelled' | 'expired' };
  /** Sent by itself: an answer to a question. */
  readonly isAutomatic?: boolean;
}

export interface ReceivedView {
  readonly id: string;
  readonly standing: Standing;
  readonly from: string;
  readonly to: string;
  readonly text: string;
  readonly number?: string;
  readonly linkId: string;
  readonly atMs: number;
  readonly lastCopyAtMs: number;
  readonly copies: number;
  readonly acksSent: number;
  readonly acknowledgedBy?: string;
  /** It came through a gate, which put it on the air for its sender. */
  readonly throughGate?: string;
}

export interface MessageSettingsView extends MessageSettings {
  readonly version: number;
}

export interface MessagesView {
  readonly outgoing: readonly OutgoingView[];
  readonly received: readonly ReceivedView[];
  readonly settings: MessageSettingsView;
  /** By conversation: read up to then. */
  readonly readUpTo: Readonly<Record<string, number>>;
  readonly correspondents: readonly Correspondent[];
}
