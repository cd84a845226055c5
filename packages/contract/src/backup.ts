import 'reflect-metadata';
import { IsBoolean, IsOptional, IsUUID, MaxLength, MinLength } from 'class-validator';

/** The type under which a backup travels. */
export const BACKUP_TYPE = 'application/x-mistpeak-backup';
export const SHORTEST_PASSPHRASE = 8;

export class OrderBackup {
  /** Also every packet that was heard: by far the most of it. */
  @IsBoolean()
  withFrames!: boolean;

  /** Left out: passwords and who is let in are left out too. */
  @IsOptional()
  @MinLength(SHORTEST_PASSPHRASE, { message: `at least ${SHORTEST_PASSPHRASE} characters` })
  @MaxLength(200)
  passphrase?: string;
}

/** One file can be fetched with it, once, for a minute. */
export interface BackupTicket {
  readonly ticket: string;
}

export class RestoreBackup {
  @IsUUID()
  id!: string;

  @IsOptional()
  @MaxLength(200)
  passphrase?: string;
}

/** What a file that was sent holds; nothing of it is taken yet. */
export interface BackupSummary {
  readonly id: string;
  readonly atMs: number;
  readonly call: string;
  readonly rows: number;
  readonly withFrames: boolean;
  /** Under a passphrase, or not in it. */
  readonly hasSecrets: boolean;
}

/** What came of it; the server starts again, and the page asks anew. */
export interface RestoredView {
  readonly rows: number;
  /** Of tables that this Mistpeak has no more. */
  readonly leftOut: number;
  readonly secrets: 'taken' | 'not in it' | 'left out: no passphrase';
}
