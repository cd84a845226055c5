import 'reflect-metadata';
import { CHARSETS, type Charset } from '@mistpeak/core/terminal/charset';
import type { Letter, Step, VisitState } from '@mistpeak/core/mailbox-visit/visit';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBase64,
  IsBoolean,
  IsIn,
  IsNumber,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { CallStation } from './sessions.js';
import { IsAnyAddress, IsVia } from './validators.js';
import { Versioned } from './versioned.js';

export const NODE_KINDS = ['mailbox', 'node', 'shell', 'mail gateway', 'station'] as const;
export type NodeKind = (typeof NODE_KINDS)[number];
export const CHARSET_CHOICES = ['guess', ...CHARSETS] as const;
export const ESCAPE_CHOICES = ['strip', 'interpret'] as const;

const FREQUENCY = { message: 'a frequency in MHz, as 144.850' };

/** Somebody who is called now and again. */
export class SavedNode {
  @Matches(/\S/, { message: 'give it a name' })
  @MaxLength(40, { message: 'at most 40 characters' })
  name!: string;

  @IsAnyAddress()
  call!: string;

  @IsVia()
  via!: string;

  /** Left out: the channel of the link. */
  @IsOptional()
  @IsNumber({}, FREQUENCY)
  @Min(1, FREQUENCY)
  @Max(1300, FREQUENCY)
  frequencyMHz?: number;

  @IsIn([...NODE_KINDS], { message: 'choose what it is' })
  kind!: NodeKind;

  @MaxLength(200, { message: 'at most 200 characters' })
  note!: string;

  /** How a text ends there. */
  @IsIn(['/EX', '\u001a'], { message: 'choose how a text ends there' })
  endOfText!: string;

  @IsIn([...CHARSET_CHOICES])
  charset!: 'guess' | Charset;

  @IsIn([...ESCAPE_CHOICES])
  escapes!: (typeof ESCAPE_CHOICES)[number];
}

export class Macro {
  @Matches(/\S/, { message: 'give it a name' })
  @MaxLength(20, { message: 'at most 20 characters' })
  name!: string;

  @MaxLength(500, { message: 'at most 500 characters' })
  text!: string;
}

export class TerminalSettings extends Versioned {
  @IsArray()
  @ArrayMaxSize(200, { message: 'at most 200 stations' })
  @ValidateNested({ each: true })
  @Type(() => SavedNode)
  nodes!: SavedNode[];

  @IsArray()
  @ArrayMaxSize(30, { message: 'at most 30 macros' })
  @ValidateNested({ each: true })
  @Type(() => Macro)
  macros!: Macro[];
}

export type TerminalSettingsView = TerminalSettings & { readonly version: number };

export class VisitLetter implements Letter {
  @IsAnyAddress()
  to!: string;

  @MaxLength(60, { message: 'at most 60 characters' })
  subject!: string;

  @IsString()
  @MaxLength(20_000, { message: 'at most 20,000 characters' })
  text!: string;
}

/** A visit that runs by itself. */
export class OrderVisit {
  @ValidateNested()
  @Type(() => CallStation)
  call!: CallStation;

  @IsBoolean()
  reads!: boolean;

  @IsArray()
  @ArrayMaxSize(20, { message: 'at most 20 messages' })
  @ValidateNested({ each: true })
  @Type(() => VisitLetter)
  leave!: VisitLetter[];

  @IsBoolean()
  killsRead!: boolean;

  @IsBoolean()
  bye!: boolean;

  @IsIn(['/EX', '\u001a'], { message: 'choose how a text ends there' })
  endOfText!: string;
}

export interface VisitView {
  readonly id: string;
  readonly sessionId: string;
  readonly to: string;
  readonly atMs: number;
  readonly steps: readonly Step[];
  readonly outcome: VisitState['outcome'];
}

export const FILE_WAYS = ['plain', 'text', 'yapp'] as const;

/** A file that goes out: its octets as they are, as base64 text, or by YAPP. */
export class SendFile {
  @Matches(/\S/, { message: 'it has no name' })
  @MaxLength(200)
  name!: string;

  @IsBase64()
  @MaxLength(700_000, { message: 'at most 500,000 octets' })
  base64!: string;

  @IsIn([...FILE_WAYS])
  way!: (typeof FILE_WAYS)[number];
}

/** An open port that shows a command prompt. */
export interface ConsoleView {
  readonly linkId: string;
  readonly phase: 'opening' | 'open' | 'closed';
  readonly openedAtMs: number;
  /** Why it closed, in words. */
  readonly trouble?: string;
}

export class TypeToConsole {
  @IsBase64()
  @MaxLength(8000)
  base64!: string;
}
