import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { Role } from '@mistpeak/contract/access';

/** One password a role, as argon2 wrote it. */
@Entity('role_password')
export class RolePasswordEntity {
  @PrimaryColumn('text')
  role!: Role;

  @Column('text')
  hash!: string;
}

/** A browser that logged in: the hash of what its cookie carries. */
@Entity('login')
export class LoginEntity {
  @PrimaryColumn('text', { name: 'token_hash' })
  tokenHash!: string;

  @Column('text')
  role!: Role;

  @Column('timestamptz', { name: 'expires_at' })
  expiresAt!: Date;
}
