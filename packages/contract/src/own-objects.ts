import 'reflect-metadata';
import type { OwnObject } from '@mistpeak/core/own-objects/own-object';
import { IsIn, IsString, IsUUID, Matches, MaxLength } from 'class-validator';
import { IsCallSign, IsIntWithin, IsPath, IsPlace } from './validators.js';
import { Versioned } from './versioned.js';

/** Up to nine characters that are shown (APRS 1.0.1, "Object report format"); of an item three at least, without ! and _. */
const OBJECT_NAME = /^[\x21-\x7e](?:[\x20-\x7e]{0,7}[\x21-\x7e])?$/;
const ITEM_NAME = /^(?=.{3,9}$)[\x22-\x5e\x60-\x7e](?:[\x20\x22-\x5e\x60-\x7e]*[\x22-\x5e\x60-\x7e])?$/;

/** An object or item that this station tells others of. */
export class OwnObjectSettings extends Versioned {
  @IsUUID(undefined, { message: 'choose a link' })
  linkId!: string;

  /** Which call of ours tells it. */
  @IsCallSign()
  source!: string;

  @IsIn(['object', 'item'])
  kind!: 'object' | 'item';

  @Matches(OBJECT_NAME, { message: 'one to nine letters, digits and signs' })
  name!: string;

  @IsPlace()
  place!: string;

  @Matches(/^[/\\0-9A-Z]$/, { message: 'a symbol table or an overlay' })
  symbolTable!: string;

  @Matches(/^[!-~]$/, { message: 'a symbol' })
  symbolCode!: string;

  @IsString()
  @MaxLength(43, { message: 'at most 43 characters' })
  comment!: string;

  @IsPath()
  path!: string;

  @IsIntWithin(5, 60)
  everyMin!: number;
}

export const hasNameOfKind = ({ kind, name }: Pick<OwnObjectSettings, 'kind' | 'name'>): boolean =>
  (kind === 'item' ? ITEM_NAME : OBJECT_NAME).test(name);

export interface OwnObjectView extends OwnObjectSettings {
  readonly id: string;
  readonly version: number;
  readonly state: OwnObject;
}
