import 'reflect-metadata';
import type { Pace } from '@mistpeak/core/mail/minutes';
import { PRECEDENCES, type Precedence } from '@mistpeak/core/mail/proposal';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBase64,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  IsUUID,
  Matches,
  MaxLength,
  ValidateNested,
} from 'class-validator';

/** Where a message lies; folders of one's own have names. */
export const BOXES = ['inbox', 'outbox', 'sent', 'drafts', 'folder'] as const;
export type Box = (typeof BOXES)[number];
export const BEYOND_LATIN1 = ['utf-8', 'question marks'] as const;

/** Of all files of one letter, base64: what radio mail never comes near. */
const LONGEST_FILE = 4_000_000;

export class LetterFile {
  @Matches(/\S/, { message: 'it has no name' })
  @MaxLength(120, { message: 'at most 120 characters' })
  name!: string;

  @IsBase64({}, { message: 'not the octets of a file' })
  @MaxLength(LONGEST_FILE, { message: 'at most 3 MB' })
  base64!: string;
}

/** A letter as it is written; addresses as typed. */
export class LetterText {
  @IsArray()
  @ArrayMaxSize(50, { message: 'at most 50 addresses' })
  @MaxLength(120, { each: true, message: 'an address is shorter' })
  to!: string[];

  @IsArray()
  @ArrayMaxSize(50, { message: 'at most 50 addresses' })
  @MaxLength(120, { each: true, message: 'an address is shorter' })
  cc!: string[];

  @IsString()
  @MaxLength(200, { message: 'at most 200 characters' })
  subject!: string;

  @IsString()
  @MaxLength(100_000, { message: 'at most 100,000 characters' })
  text!: string;

  @IsArray()
  @ArrayMaxSize(20, { message: 'at most 20 files' })
  @ValidateNested({ each: true })
  @Type(() => LetterFile)
  files!: LetterFile[];

  @IsIn([...BEYOND_LATIN1], { message: 'choose what becomes of such letters' })
  beyondLatin1!: (typeof BEYOND_LATIN1)[number];

  @IsIn([...PRECEDENCES], { message: 'choose a precedence' })
  precedence!: Precedence;

  /** It never goes by radio. */
  @IsBoolean()
  onlyInternet!: boolean;

  /** ms since 1970: not before. */
  @IsOptional()
  @IsInt()
  afterMs?: number;

  /** Which of the own addresses it is from; the licence call, where left out. */
  @IsOptional()
  @MaxLength(12)
  from?: string;

  /** What it answers. */
  @IsOptional()
  @IsUUID()
  answers?: string;
}

/** box: a draft stays one; the outbox is what the next session takes. Posting sends nothing. */
export class KeepLetter extends LetterText {
  @IsIn(['drafts', 'outbox'], { message: 'keep it as a draft, or post it' })
  box!: 'drafts' | 'outbox';

  @IsOptional()
  @IsInt({ message: 'a version is a whole number' })
  version?: number;
}

/** A letter that is not kept: how heavy it is. */
export class WeighLetter extends LetterText {
  @IsOptional()
  @IsUUID()
  profileId?: string;
}

export interface WeightView {
  /** Of the message as it is, and of its container. */
  readonly octets: number;
  readonly packedOctets: number;
  /** On the way, with all that goes with it. */
  readonly ms: number;
  readonly files: readonly {
    readonly name: string;
    readonly octets: number;
    readonly packedOctets: number;
    readonly ms: number;
  }[];
  readonly pace: Pace;
  /** The whole session with all that is in the outbox. */
  readonly sessionMs: number;
  readonly beyondLatin1: readonly string[];
  /** What is wrong with addresses, and what looks mistyped, by the address as typed. */
  readonly addresses: Readonly<
    Record<string, { readonly trouble?: string; readonly doubt?: string; readonly meant?: readonly string[] }>
  >;
}

export class MoveMessage {
  @IsIn([...BOXES], { message: 'choose where' })
  box!: Box;

  @IsOptional()
  @MaxLength(40, { message: 'at most 40 characters' })
  folder?: string;
}

export class MarkRead {
  @IsBoolean()
  isRead!: boolean;
}

/** How far a message of ours is: what its trail shows. */
export interface MailRow {
  readonly id: string;
  readonly mid: string;
  readonly box: Box;
  readonly folder?: string;
  readonly from: string;
  readonly to: readonly string[];
  readonly subject: string;
  readonly atMs: number;
  readonly octets: number;
  readonly packedOctets: number;
  readonly files: number;
  readonly isRead: boolean;
  readonly answeredAtMs?: number;
  readonly precedence: Precedence;
  readonly onlyInternet: boolean;
  readonly afterMs?: number;
  /** What became of it in the last session, in words. */
  readonly note?: string;
  readonly thread: string;
  readonly beyondLatin1?: (typeof BEYOND_LATIN1)[number];
  readonly version: number;
}

export interface MailMessageView extends MailRow {
  readonly cc: readonly string[];
  readonly text: string;
  readonly fileNames: readonly { readonly name: string; readonly octets: number }[];
  readonly headers: readonly (readonly [string, string])[];
  /** A password came in clear: dots stand for it. */
  readonly holdsPassword?: true;
  /** The self-test that it answers. */
  readonly selfTest?: number;
}

export interface AddressEntry {
  readonly address: string;
  readonly from: 'mail' | 'stations';
  readonly lastAtMs: number;
}
