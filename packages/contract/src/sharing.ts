import 'reflect-metadata';
import { IsBoolean, IsIn, IsInt, Max, Min } from 'class-validator';
import type { Refusal } from '@mistpeak/core/sharing/desk';
import type { KissValueCommand } from '@mistpeak/core/kiss/commands';

export const REACHES = ['loopback', 'network'] as const;
export type Reach = (typeof REACHES)[number];

/** The usual port of modem programs (common practice, no source). */
const USUAL_SHARING_PORT = 8001;

const PORT_WORDS = 'a port is a whole number from 1024 to 65535';

/** How one link’s TNC is lent to other programs, as KISS over TCP. */
export class SharingSettings {
  @IsBoolean()
  isOn!: boolean;

  @IsInt({ message: PORT_WORDS })
  @Min(1024, { message: PORT_WORDS })
  @Max(65_535, { message: PORT_WORDS })
  port!: number;

  @IsIn(REACHES, { message: 'choose this machine or the network' })
  reach!: Reach;

  /** The operator has read what it means that others on the network can use the TNC. */
  @IsBoolean()
  isReachConfirmed!: boolean;

  /** By multicast DNS, where the network is reached. */
  @IsBoolean()
  isAnnounced!: boolean;

  /** What a program may do that has just connected. */
  @IsBoolean()
  newMayTransmit!: boolean;
}

/** Before it was ever switched on. */
export const NOT_SHARED: SharingSettings = {
  isOn: false,
  port: USUAL_SHARING_PORT,
  reach: 'loopback',
  isReachConfirmed: false,
  isAnnounced: false,
  newMayTransmit: false,
};

export class ClientRights {
  @IsBoolean()
  mayTransmit!: boolean;
}

/** A program at the shared TNC. heard: frames given to it; handed: its frames that went to the TNC. */
export interface SharingClientView {
  readonly id: string;
  readonly from: string;
  readonly sinceMs: number;
  readonly mayTransmit: boolean;
  readonly heard: number;
  readonly handed: number;
  readonly waiting: number;
  readonly refused: Readonly<Partial<Record<Refusal, number>>>;
  /** KISS values that it asked for and did not get. */
  readonly asked: Readonly<Partial<Record<KissValueCommand, number>>>;
}

/** Why a program was disconnected. */
export type LetGo = 'flooded' | 'read nothing';

export interface SharingView {
  readonly linkId: string;
  readonly settings: SharingSettings;
  readonly isListening: boolean;
  /** A reason of failures.ts, where it should listen and does not. */
  readonly failure?: string;
  readonly clients: readonly SharingClientView[];
  /** Programs that were disconnected, since sharing was switched on. */
  readonly letGo: Readonly<Record<LetGo, number>>;
}
