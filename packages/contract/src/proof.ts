import 'reflect-metadata';
import { IsIn } from 'class-validator';
import { RUNGS, type Evidence, type Rung } from '@mistpeak/core/proof/evidence';

export type EvidenceView = Evidence;

/** What only the operator can see: the transmit lamp. */
export class TickRung {
  @IsIn(['keyed'], { message: 'only “keyed” can be ticked' })
  rung!: 'keyed';
}

/** What the operator saw of a chain that ends in another app, or in none. */
export class TickChainRung {
  @IsIn(RUNGS, { message: 'choose a rung of the climb' })
  rung!: Rung;
}
