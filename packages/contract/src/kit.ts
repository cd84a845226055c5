import 'reflect-metadata';
import { MaxLength } from 'class-validator';
import type { Item } from '@mistpeak/core/kit/item';
import { IsItem } from './validators.js';
import { Versioned } from './versioned.js';

/** One item of the kit as it is sent. A new one gets the id of the command. */
export class ItemSettings extends Versioned {
  @IsItem()
  item!: Item;
}

/** What is owned, in its order, and the version of each by its id. */
export interface KitView {
  readonly items: readonly Item[];
  readonly versions: Readonly<Record<string, number>>;
}

/** A whole kit as a file: it takes the place of what is there, or nothing of it is taken. */
export class KitImport {
  @MaxLength(2_000_000, { message: 'at most two million characters' })
  file!: string;
}
