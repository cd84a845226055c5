import type { GatewaysPulse } from '@mistpeak/contract/gateways';
import type { GatewaysEvents } from '@mistpeak/contract/live/gateways';
import type { Slice } from './slice';

export interface GatewaysState {
  readonly gateways: GatewaysPulse;
}

export const gateways: Slice<GatewaysState, keyof GatewaysEvents> = {
  empty: { gateways: { revision: 0, facilities: 0, conflicts: 0 } },
  ofSnapshot: (snapshot) => ({ gateways: snapshot.gateways }),
  on: { gateways: (_, now) => ({ gateways: now }) },
};
