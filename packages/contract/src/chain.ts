import 'reflect-metadata';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsOptional,
  IsUUID,
  MaxLength,
} from 'class-validator';
import { fromLibrary } from '@mistpeak/core/kit/library';
import type { Item } from '@mistpeak/core/kit/item';
import type { SwitchId } from '@mistpeak/core/kit/switches';
import { PURPOSES, type Purpose } from '@mistpeak/core/proof/ladder';
import type { SchoolChoices } from '@mistpeak/core/sheet/schools';
import type { StepTick } from '@mistpeak/core/sheet/sheet-text';
import { AreSchools, IsItem, IsSwitchSetting } from './validators.js';
import { Versioned } from './versioned.js';

const MOST_PARTS = 12;

/** A chain as it is saved: its parts from radio to app, what it is for, and the schools that its sheet follows. */
export class ChainSettings extends Versioned {
  /** As the operator calls it; empty: by its radio and its app. */
  @MaxLength(60, { message: 'at most 60 characters' })
  name!: string;

  @IsIn(Object.keys(PURPOSES), { message: 'choose a purpose' })
  purpose!: Purpose;

  @IsArray({ message: 'the parts are a list' })
  @ArrayMinSize(1, { message: 'a chain has at least a radio' })
  @ArrayMaxSize(MOST_PARTS, { message: `a chain has at most ${MOST_PARTS} parts` })
  @IsItem({ each: true })
  parts!: Item[];

  /** The port of the radio that the chain begins with. */
  @IsOptional()
  @MaxLength(200, { message: 'at most 200 characters' })
  radioPort?: string;

  @MaxLength(60, { message: 'at most 60 characters' })
  antenna!: string;

  /** Whoever moves must be heard anew after half an hour. */
  @IsBoolean({ message: 'it moves or it does not' })
  isMoving!: boolean;

  @AreSchools()
  schools!: SchoolChoices;

  /** The link that it goes by, where it ends in Mistpeak. */
  @IsOptional()
  @IsUUID(undefined, { message: 'choose a link' })
  linkId?: string | null;
}

export interface ChainView extends ChainSettings {
  readonly id: string;
  readonly version: number;
  readonly onBench: boolean;
  readonly savedAtMs: number;
}

export interface SwitchSetting {
  readonly itemId: string;
  readonly switch: SwitchId;
  readonly to: string;
}

/** The operator did a step of the sheet, or took it back. measured: what was read off. */
export class TickSettings {
  @MaxLength(200, { message: 'at most 200 characters' })
  stepId!: string;

  @IsBoolean({ message: 'it is done or it is not' })
  isDone!: boolean;

  @MaxLength(60, { message: 'at most 60 characters' })
  measured!: string;

  @MaxLength(200, { message: 'at most 200 characters' })
  note!: string;

  /** The switch of the kit that stands as the step says once it is done. */
  @IsOptional()
  @IsSwitchSetting()
  set?: SwitchSetting;
}

export interface TickView extends StepTick {
  readonly chainId: string;
}

/** What a link’s chain is taken for until one is planned. */
export function unnamedChain(linkId: string, linkName: string): ChainView {
  const parts = [
    fromLibrary('fm-mobile', 'unnamed-radio', { name: 'Radio', about: 'not described yet' }),
    fromLibrary('six-pin-cable', 'unnamed-cable', { name: 'cable', about: '' }),
    fromLibrary('usb-packet-modem', 'unnamed-tnc', { name: linkName }),
    fromLibrary('single-board', 'unnamed-host', { name: 'This computer' }),
    fromLibrary('mistpeak', 'unnamed-app'),
  ];
  return {
    id: `unnamed-${linkId}`,
    linkId,
    name: '',
    version: 0,
    purpose: 'beacon',
    parts,
    antenna: '',
    isMoving: false,
    schools: {},
    onBench: false,
    savedAtMs: 0,
  };
}
