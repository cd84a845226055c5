import { IsString, MaxLength, MinLength } from 'class-validator';

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

/** Who this browser is. role null: nobody yet, log in first. */
export interface AccessView {
  readonly role: Role | null;
  /** On this machine the operator needs no login. */
  readonly isLocal: boolean;
  readonly isLoggedIn: boolean;
  readonly passwords: Readonly<Record<Role, boolean>>;
}
