import type { Draft } from './draft.js';
import type { Limits } from './session.js';

/** As long as we like, and as the other end takes them. */
export function limitsOf({ options, state }: Draft): Pick<Limits, 'packetOctets' | 'segments'> {
  const { packetOctets = Infinity, segments = false } = state.limits ?? {};
  return { packetOctets: Math.min(options.packetOctets, packetOctets), segments };
}
