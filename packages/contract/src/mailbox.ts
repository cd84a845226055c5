import 'reflect-metadata';
import { READERS, type Letter, type Readers } from '@mistpeak/core/mailbox/letters';
import { ACCESSES, type Access, type MailboxRules } from '@mistpeak/core/mailbox/rules';
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
} from 'class-validator';
import { Versioned } from './versioned.js';

const within = (from: number, to: number): { message: string } => ({ message: `from ${from} to ${to}` });

/** The called side of this station; off until it is switched on. */
export class MailboxSettings extends Versioned implements MailboxRules {
  @IsBoolean()
  isOn!: boolean;

  /** Where it takes calls. */
  @IsOptional()
  @IsUUID(undefined, { message: 'choose a link' })
  linkId?: string;

  @IsInt(within(0, 15))
  @Min(0, within(0, 15))
  @Max(15, within(0, 15))
  ssid!: number;

  /** The operator’s word that local rules allow a station that answers while nobody is there. */
  @IsBoolean()
  allowsAutomatic!: boolean;

  @IsIn([...ACCESSES], { message: 'choose who may come in' })
  access!: Access;

  @IsArray()
  @ArrayMaxSize(200, { message: 'at most 200 calls' })
  @Matches(/^[A-Z0-9]{1,6}$/, { each: true, message: 'calls without SSID, as QH8CLA' })
  listed!: string[];

  @IsIn([...READERS], { message: 'choose who may read' })
  readers!: Readers;

  @IsString()
  @MaxLength(400, { message: 'at most 400 characters' })
  greeting!: string;

  @IsString()
  @MaxLength(1000, { message: 'at most 1000 characters' })
  information!: string;

  @IsInt(within(200, 50_000))
  @Min(200, within(200, 50_000))
  @Max(50_000, within(200, 50_000))
  mostLetterOctets!: number;

  @IsInt(within(1000, 1_000_000))
  @Min(1000, within(1000, 1_000_000))
  @Max(1_000_000, within(1000, 1_000_000))
  memoryOctets!: number;

  @IsInt(within(5, 240))
  @Min(5, within(5, 240))
  @Max(240, within(5, 240))
  visitMinutes!: number;

  @IsInt(within(1, 60))
  @Min(1, within(1, 60))
  @Max(60, within(1, 60))
  idleMinutes!: number;

  @IsInt(within(1, 60))
  @Min(1, within(1, 60))
  @Max(60, within(1, 60))
  callsAnHour!: number;

  /** For whom mail waits is sent every half hour. */
  @IsBoolean()
  announces!: boolean;
}

export type MailboxSettingsView = MailboxSettings & { readonly version: number };

/** A letter as the operator writes it here: it needs no radio. */
export class WriteLetter {
  @Matches(/^[A-Za-z0-9]{1,6}$/, { message: 'a call without SSID, or ALL' })
  to!: string;

  @IsString()
  @MaxLength(60, { message: 'at most 60 characters' })
  subject!: string;

  @IsString()
  @MaxLength(50_000, { message: 'at most 50,000 characters' })
  text!: string;
}

export type LetterView = Letter;

/** What there was of a letter when its link died. */
export interface HalfLetterView extends Omit<LetterView, 'number' | 'isRead'> {
  readonly id: string;
}

export interface MailboxView {
  readonly settings: MailboxSettingsView;
  readonly letters: readonly LetterView[];
  readonly halfReceived: readonly HalfLetterView[];
  readonly usedOctets: number;
  /** Why nobody can call it now, in words; left out: it takes calls. */
  readonly closedBecause?: string;
}
