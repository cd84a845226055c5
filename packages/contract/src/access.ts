import { IsIn, IsString, MaxLength, MinLength } from 'class-validator';

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

/** Who this browser is. role null: nobody yet, log in first. */
export interface AccessView {
  readonly role: Role | null;
  /** On this machine the operator needs no login. */
  readonly isLocal: boolean;
  readonly isLoggedIn: boolean;
  readonly passwords: Readonly<Record<Role, boolean>>;
  /** How other devices reach Mistpeak; none while it is on this machine only. */
  readonly addresses: readonly string[];
}
