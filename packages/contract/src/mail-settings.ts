import 'reflect-metadata';
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
  MinLength,
  ValidateNested,
} from 'class-validator';
import { IsIntWithin } from './validators.js';
import { Versioned } from './versioned.js';

export const WAYS = ['packet', 'tcp', 'peer', 'modem'] as const;
export type MailWay = (typeof WAYS)[number];
export const EXCHANGES = ['both', 'send', 'receive'] as const;

const FREQUENCY = { message: 'a frequency in MHz, as 144.850' };

const HOUR = { message: 'an hour of the day, UTC, 0 to 24' };

export class MailSchedule {
  @IsBoolean()
  isOn!: boolean;

  /** Every so many minutes; 0: only at the times. */
  @IsIntWithin(0, 1440)
  everyMinutes!: number;

  /** `HH:MM`, UTC. */
  @IsArray()
  @ArrayMaxSize(24)
  @Matches(/^(?:[01]\d|2[0-3]):[0-5]\d$/, { each: true, message: 'times as 18:30, UTC' })
  atTimes!: string[];

  @IsInt(HOUR)
  @Min(0, HOUR)
  @Max(24, HOUR)
  fromHour!: number;

  @IsInt(HOUR)
  @Min(0, HOUR)
  @Max(24, HOUR)
  toHour!: number;

  /** The operator’s word that local rules allow a station that calls while nobody is there. */
  @IsBoolean()
  allowsAutomatic!: boolean;
}

/** One to try, in the order of the list. */
export class GatewayEntry {
  @Matches(/^[A-Za-z0-9]{1,6}(?:-(?:[0-9]|1[0-5]))?$/, { message: 'a call and its SSID, as QH5VEL-10' })
  call!: string;

  @MaxLength(80)
  @Matches(/^[A-Za-z0-9,\- ]*$/, { message: 'digipeaters, in order, with commas' })
  via!: string;

  @IsOptional()
  @Min(1, FREQUENCY)
  @Max(1300, FREQUENCY)
  frequencyMHz?: number;

  @MaxLength(120, { message: 'at most 120 characters' })
  note!: string;
}

export class MailProfile {
  @IsUUID()
  id!: string;

  @Matches(/\S/, { message: 'give it a name' })
  @MaxLength(40, { message: 'at most 40 characters' })
  name!: string;

  @IsIn([...WAYS], { message: 'choose a way' })
  way!: MailWay;

  /** The station that calls. */
  @Matches(/^[A-Za-z0-9]{1,6}(?:-(?:[0-9]|1[0-5]))?$/, { message: 'your call and an SSID' })
  from!: string;

  @IsOptional()
  @IsUUID(undefined, { message: 'choose a link' })
  linkId?: string;

  @IsArray()
  @ArrayMaxSize(20, { message: 'at most 20' })
  @ValidateNested({ each: true })
  @Type(() => GatewayEntry)
  gateways!: GatewayEntry[];

  @IsIn([...EXCHANGES], { message: 'choose what it does' })
  exchanges!: (typeof EXCHANGES)[number];

  /** One gateway is called so often before it counts as silent; a session that broke is taken up again so often. */
  @IsIntWithin(1, 10)
  tries!: number;

  /** PACLEN and MAXFRAME; left out: computed for the link. */
  @IsOptional()
  @IsIntWithin(1, 256)
  packetOctets?: number;

  @IsOptional()
  @IsIntWithin(1, 7)
  window?: number;

  /** By TCP: where, and the word that the service asks for before its greeting (not the account's password). */
  @IsOptional()
  @MaxLength(200)
  host?: string;

  @IsOptional()
  @IsIntWithin(1, 65535)
  port?: number;

  @IsOptional()
  @MaxLength(40)
  word?: string;

  /** The radio that is set to the frequency, and the modem program; by name. */
  @IsOptional()
  @MaxLength(40)
  radio?: string;

  @IsOptional()
  @MaxLength(40)
  modem?: string;

  /** Tried by itself, where it is on. */
  @IsOptional()
  @ValidateNested()
  @Type(() => MailSchedule)
  schedule?: MailSchedule;
}

export class MailListening {
  @IsBoolean()
  isOn!: boolean;

  @IsOptional()
  @IsUUID(undefined, { message: 'choose a link' })
  linkId?: string;

  @IsIntWithin(0, 15)
  ssid!: number;

  @IsBoolean()
  allowsAutomatic!: boolean;
}

export class MailTemplate {
  @Matches(/\S/, { message: 'give it a name' })
  @MaxLength(40, { message: 'at most 40 characters' })
  name!: string;

  @MaxLength(300)
  to!: string;

  @MaxLength(200)
  subject!: string;

  @MaxLength(10_000)
  text!: string;
}

const WORDS = { message: 'at most 120 characters' };

class ModemWordSettings {
  @MaxLength(120, WORDS) setOwn!: string;
  @MaxLength(120, WORDS) askOwn!: string;
  @MinLength(1, { message: 'its own call is read back: say how it tells it' })
  @MaxLength(120, WORDS)
  ownIs!: string;
  @MinLength(1, { message: 'say how it is told to connect' }) @MaxLength(120, WORDS) connect!: string;
  @MinLength(1, { message: 'say how it tells that it is connected' })
  @MaxLength(120, WORDS)
  connected!: string;
  @MaxLength(120, WORDS) busy!: string;
  @MaxLength(120, WORDS) clear!: string;
  @MaxLength(120, WORDS) buffer!: string;
  @MinLength(1, { message: 'say how it is told to disconnect' }) @MaxLength(120, WORDS) disconnect!: string;
  @MinLength(1, { message: 'say how it tells that it is disconnected' })
  @MaxLength(120, WORDS)
  disconnected!: string;
  @MaxLength(120, WORDS) abort!: string;
  @MaxLength(120, WORDS) refused!: string;
}

/** A sound modem of another program: its two ports, its words, the sound card that it uses. */
export class ModemProgramSettings {
  @Matches(/\S/, { message: 'give it a name' })
  @MaxLength(40)
  name!: string;

  @MaxLength(200)
  host!: string;

  @IsIntWithin(1, 65535)
  commandPort!: number;

  @IsIntWithin(1, 65535)
  dataPort!: number;

  /** As this machine names it; empty: of another machine. */
  @MaxLength(120)
  card!: string;

  @ValidateNested()
  @Type(() => ModemWordSettings)
  words!: ModemWordSettings;
}

class RadioWordSettings {
  @MaxLength(120, WORDS) set!: string;
  @MaxLength(120, WORDS) ask!: string;
  @MaxLength(120, WORDS) frequencyIs!: string;
}

/** A radio whose frequency is set by words: at a serial port, or a port of a program. No word of it keys. */
export class RadioControlSettings {
  @Matches(/\S/, { message: 'give it a name' })
  @MaxLength(40)
  name!: string;

  /** `/dev/…` with a speed, or host and port. */
  @MaxLength(200)
  at!: string;

  @IsIntWithin(300, 921_600)
  speed!: number;

  /** What ends a command. */
  @IsIn(['CR', 'LF', 'CR LF', ';'], { message: 'choose what ends a command' })
  ending!: 'CR' | 'LF' | 'CR LF' | ';';

  @ValidateNested()
  @Type(() => RadioWordSettings)
  words!: RadioWordSettings;
}

export class MailSettings extends Versioned {
  /** What stands behind the @ of the own address; empty: not known. */
  @MaxLength(100)
  domain!: string;

  /** Further own addresses. */
  @IsArray()
  @ArrayMaxSize(10, { message: 'at most 10' })
  @Matches(/^[A-Z0-9-]{3,12}$/, { each: true, message: 'capital letters, digits, a hyphen' })
  auxiliary!: string[];

  @IsOptional()
  @IsIntWithin(100, 500_000)
  askOverOctets?: number;

  /** A letter that takes longer is refused. */
  @IsIntWithin(1, 240)
  mostMinutes!: number;

  @IsBoolean()
  watchersMayRead!: boolean;

  @IsArray()
  @ArrayMaxSize(30)
  @ValidateNested({ each: true })
  @Type(() => MailProfile)
  profiles!: MailProfile[];

  @IsArray()
  @ArrayMaxSize(50)
  @ValidateNested({ each: true })
  @Type(() => MailTemplate)
  templates!: MailTemplate[];

  @ValidateNested()
  @Type(() => MailListening)
  listening!: MailListening;

  @IsArray()
  @ArrayMaxSize(5)
  @ValidateNested({ each: true })
  @Type(() => ModemProgramSettings)
  modems!: ModemProgramSettings[];

  @IsArray()
  @ArrayMaxSize(5)
  @ValidateNested({ each: true })
  @Type(() => RadioControlSettings)
  radios!: RadioControlSettings[];
}

export type MailSettingsView = MailSettings & { readonly version: number };

export const KEEPINGS = ['asked', 'folder', 'passphrase'] as const;

/** keeping: asked each time; encrypted, its key in the data folder; or in the operator's passphrase. */
export class AccountPassword {
  @IsIn([...KEEPINGS], { message: 'choose how it is kept' })
  keeping!: (typeof KEEPINGS)[number];

  @IsOptional()
  @MaxLength(60, { message: 'at most 60 characters' })
  password?: string;

  @IsOptional()
  @MaxLength(200)
  passphrase?: string;

  /** Taken from a message in which it came in clear. */
  @IsOptional()
  @IsUUID()
  fromMessage?: string;
}

export class UnlockPassword {
  @IsString()
  @MaxLength(200)
  passphrase!: string;
}

/**
 * none: no password known · locked: kept, its passphrase is not given yet · known. cameInClear: it must be changed; provedAtMs: when a
 * login with it was accepted.
 */
export interface AccountView {
  readonly keeping: (typeof KEEPINGS)[number];
  readonly state: 'none' | 'locked' | 'known';
  readonly cameInClear: boolean;
  readonly provedAtMs?: number;
}
