import type { Chain } from '../chain/chain.js';
import type { ChainKind } from './kind-of-chain.js';
import type { SchoolId } from './schools.js';

/** What the sheet needs to know besides the chain. channelMHz: of the region; call: with its SSID, if one is planned. */
export interface SheetFacts {
  readonly call: string;
  readonly channelMHz?: number;
  readonly isMoving: boolean;
  readonly linkAddress?: string;
}

export interface SheetContext extends SheetFacts {
  readonly chain: Chain;
  readonly kind: ChainKind;
  readonly option: (school: SchoolId) => string;
}
