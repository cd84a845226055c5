import { IsIn } from 'class-validator';
import type { Evidence } from '@mistpeak/core/proof/evidence';

export type EvidenceView = Evidence;

/** What only the operator can see: the transmit lamp. */
export class TickRung {
  @IsIn(['keyed'], { message: 'only “keyed” can be ticked' })
  rung!: 'keyed';
}
