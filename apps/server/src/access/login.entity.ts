import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { Entrance, Role } from '@mistpeak/contract/access';

/** One password a role, as argon2 wrote it. */
@Entity('role_password')
export class RolePasswordEntity {
  @PrimaryColumn('text')
  role!: Role;

  @Column('text')
  hash!: string;
}

/** A browser that was let in: the hash of what its cookie carries, and what the operator sees of it. */
@Entity('login')
export class LoginEntity {
  @PrimaryColumn('text', { name: 'token_hash' })
  tokenHash!: string;

  @Column('uuid')
  id!: string;

  @Column('text')
  role!: Role;

  /** How it came in. */
  @Column('text')
  entrance!: Entrance;

  /** What the operator called it. */
  @Column('text')
  name!: string;

  @Column('text')
  address!: string;

  @Column('timestamptz', { name: 'let_in_at' })
  letInAt!: Date;

  @Column('timestamptz', { name: 'expires_at' })
  expiresAt!: Date;
}
