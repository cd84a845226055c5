import { Inject, Injectable } from '@nestjs/common';
import type { AccountPassword, AccountView } from '@mistpeak/contract/mail-settings';
import { DataSource } from 'typeorm';
import { CONFIGURATION, type Configuration } from '../configuration.js';
import { ProblemException } from '../problems/problem.js';
import { keyOfFolder, keyOfPassphrase, newSalt, open, seal, type Sealed } from './secrets.js';

interface Stored {
  readonly keeping: AccountView['keeping'];
  readonly sealed?: Sealed;
  readonly cameInClear?: boolean;
  readonly provedAtMs?: number;
}

/** The password of the mail account. It is sent nowhere: answers to challenges are computed of it, here. */
@Injectable()
export class MailAccount {
  private stored: Stored = { keeping: 'asked' };
  /** Given since the start, or opened. */
  private password: string | undefined;

  constructor(
    @Inject(CONFIGURATION) private readonly configuration: Configuration,
    private readonly database: DataSource,
  ) {}

  async read(): Promise<void> {
    const [row] = await this.database.query<{ account: Stored | null }[]>('SELECT account FROM mail');
    this.stored = row?.account ?? { keeping: 'asked' };
    const { keeping, sealed } = this.stored;
    const { dataFolder } = this.configuration;
    if (keeping === 'folder' && sealed && dataFolder !== undefined)
      this.password = open(sealed, keyOfFolder(dataFolder));
  }

  view(): AccountView {
    const { keeping, sealed, cameInClear = false, provedAtMs } = this.stored;
    const state = this.password !== undefined ? 'known' : sealed ? 'locked' : 'none';
    return { keeping, state, cameInClear, ...(provedAtMs === undefined ? {} : { provedAtMs }) };
  }

  /** What a session answers challenges with; refuses where it is locked. */
  forSession(given: string | undefined): string | undefined {
    if (given !== undefined && given !== '') return given;
    if (this.view().state === 'locked') throw new ProblemException('password-locked');
    return this.password;
  }

  /** Another password is not proved yet, and needs no change any more. */
  async choose({ keeping, password, passphrase }: AccountPassword, cameInClear: boolean): Promise<void> {
    const secret = password === undefined || password === '' ? this.password : password;
    if (keeping === 'asked') return this.keep({ keeping, ...this.history(secret, cameInClear) }, undefined);
    if (secret === undefined)
      throw new ProblemException('field-refused', { password: 'give the password that is to be kept' });
    const sealed = keeping === 'folder' ? this.sealInFolder(secret) : sealWith(passphrase ?? '', secret);
    await this.keep({ keeping, sealed, ...this.history(secret, cameInClear) }, secret);
  }

  /** For a backup, which seals it anew; undefined: none is known now. */
  secret(): string | undefined {
    return this.password;
  }

  /** Of another machine, as this one would keep it; undefined: it can keep none. */
  sealedHere(password: string): Stored | undefined {
    return this.configuration.dataFolder === undefined
      ? undefined
      : { keeping: 'folder', sealed: this.sealInFolder(password) };
  }

  unlock(passphrase: string): void {
    const { sealed } = this.stored;
    const salt = sealed?.salt;
    const password =
      sealed && salt !== undefined
        ? open(sealed, keyOfPassphrase(passphrase, Buffer.from(salt, 'hex')))
        : undefined;
    if (password === undefined) throw new ProblemException('passphrase-wrong');
    this.password = password;
  }

  async forget(): Promise<void> {
    await this.keep({ keeping: 'asked' }, undefined);
  }

  /** A login was accepted with it. */
  async noteProved(password: string, atMs: number): Promise<void> {
    if (password === this.password) await this.keep({ ...this.stored, provedAtMs: atMs }, password);
  }

  private history(
    secret: string | undefined,
    cameInClear: boolean,
  ): Pick<Stored, 'cameInClear' | 'provedAtMs'> {
    const { cameInClear: before = false, provedAtMs } = this.stored;
    const isSame = secret !== undefined && secret === this.password;
    if (isSame)
      return { cameInClear: cameInClear || before, ...(provedAtMs === undefined ? {} : { provedAtMs }) };
    return { cameInClear };
  }

  private sealInFolder(secret: string): Sealed {
    const { dataFolder } = this.configuration;
    if (dataFolder === undefined)
      throw new ProblemException('field-refused', { keeping: 'there is no data folder here' });
    return seal(secret, keyOfFolder(dataFolder));
  }

  private async keep(stored: Stored, password: string | undefined): Promise<void> {
    await this.database.query('UPDATE mail SET account = $1', [JSON.stringify(stored)]);
    this.stored = stored;
    this.password = password;
  }
}

const SHORTEST_PASSPHRASE = 8;

function sealWith(passphrase: string, secret: string): Sealed {
  if (passphrase.length < SHORTEST_PASSPHRASE)
    throw new ProblemException('field-refused', { passphrase: `at least ${SHORTEST_PASSPHRASE} characters` });
  const salt = newSalt();
  return seal(secret, keyOfPassphrase(passphrase, salt), salt);
}
