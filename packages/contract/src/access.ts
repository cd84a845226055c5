import 'reflect-metadata';
import { IsIn, IsOptional, IsString, MaxLength, MinLength } from 'class-validator';

/** The operator does everything; a watcher sees everything and changes and sends nothing. */
export const ROLES = ['operator', 'watcher'] as const;
export type Role = (typeof ROLES)[number];

const SHORTEST = 8;
const LONGEST = 200;

/** A new password for a role. */
export class PasswordSetting {
  @IsString({ message: 'a password is needed' })
  @MinLength(SHORTEST, { message: `at least ${SHORTEST} characters` })
  @MaxLength(LONGEST, { message: `at most ${LONGEST} characters` })
  password!: string;
}

/** Whose password it is tells the role. */
export class LoginAttempt {
  @IsString({ message: 'a password is needed' })
  @MaxLength(LONGEST, { message: `at most ${LONGEST} characters` })
  password!: string;
}

/** The operator wants to let a device in as that role. */
export class PairingWish {
  @IsIn(ROLES, { message: 'choose a role' })
  role!: Role;

  /** What the operator calls the device, to know it in the list. */
  @IsOptional()
  @IsString({ message: 'a name, as phone in the cart' })
  @MaxLength(40, { message: 'at most 40 characters' })
  name?: string;
}

/** As typed, or read from the picture. */
export class PairingCode {
  @IsString({ message: 'the code is missing' })
  @MaxLength(40, { message: 'the code has ten letters' })
  code!: string;
}

/** One code for one device. fingerprint: SHA-256 of the authority’s certificate, in hex. */
export interface PairingView {
  readonly code: string;
  readonly role: Role;
  readonly expiresAtMs: number;
  readonly addresses: readonly string[];
  readonly fingerprint: string;
}

export const ENTRANCES = ['password', 'code', 'this machine'] as const;
/** How a browser came in. */
export type Entrance = (typeof ENTRANCES)[number];

/** A browser that was let in. isThis: the one that asks. */
export interface DeviceView {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly entrance: Entrance;
  readonly address: string;
  readonly letInAtMs: number;
  readonly seenAtMs: number;
  readonly isThis: boolean;
}

/** What the launcher puts into the address that it prints. */
export interface EntranceView {
  readonly token: string;
}

/** Who this browser is. role null: nobody yet, log in first. */
export interface AccessView {
  readonly role: Role | null;
  /** It is on the machine that Mistpeak runs on. */
  readonly isLocal: boolean;
  /** There the demo needs no login. */
  readonly isTrusted: boolean;
  readonly isLoggedIn: boolean;
  readonly passwords: Readonly<Record<Role, boolean>>;
  /** How other devices reach Mistpeak; none while it is on this machine only. */
  readonly addresses: readonly string[];
}
