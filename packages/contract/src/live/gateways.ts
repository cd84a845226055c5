import type { GatewaysPulse } from '../gateways.js';

/** That there is a directory; it is asked for when it changes, for it may be long. */
export interface GatewaysSnapshot {
  readonly gateways: GatewaysPulse;
}

export interface GatewaysEvents {
  gateways: GatewaysPulse;
}
