import 'reflect-metadata';
import type { Trouble } from '@mistpeak/core/internet/session';
import { IsBoolean, IsInt, Max, MaxLength, Min } from 'class-validator';
import { IsCallSign, IsFilter, IsHostName } from './validators.js';
import { Versioned } from './versioned.js';

const PORT = { message: 'a port is a number from 1 to 65535; these servers are usually at 14580' };

/** The connection to the internet service. The server is given by its operator's word: none is built in. */
export class InternetSettings extends Versioned {
  @IsBoolean()
  isOn!: boolean;

  @IsHostName()
  host!: string;

  @IsInt(PORT)
  @Min(1, PORT)
  @Max(65_535, PORT)
  port!: number;

  @IsCallSign()
  call!: string;

  /** Logs in verified, with the passcode of the call; else receive-only. */
  @IsBoolean()
  isVerified!: boolean;

  @IsFilter()
  @MaxLength(300, { message: 'at most 300 characters' })
  filter!: string;

  /** Own messages and beacons may leave this way. */
  @IsBoolean()
  sends!: boolean;
}

export interface InternetView {
  /** Absent until it has been set up. */
  readonly settings?: InternetSettings & { readonly version: number };
  readonly phase: 'off' | 'connecting' | 'greeting' | 'login' | 'in' | 'apart';
  readonly trouble?: Trouble;
  /** In the far end's words, or the network's. */
  readonly detail?: string;
  readonly server?: string;
  readonly isVerified?: boolean;
  readonly isStandIn?: boolean;
  /** Since the start of the server. */
  readonly counts: {
    readonly lines: number;
    readonly packets: number;
    readonly duplicates: number;
    readonly unreadable: number;
    readonly tooLong: number;
    readonly sent: number;
  };
  readonly lastAtMs?: number;
  /** Of own stations: how their packets of the last hours came in. */
  readonly ways: readonly OwnWay[];
}

/** How the packets of one own station came in, and when the last of them did. */
export interface OwnWay {
  readonly call: string;
  readonly words: string;
  readonly byRadio: number;
  readonly all: number;
  readonly atMs: readonly number[];
}
