import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parseCoordinate } from '@mistpeak/core/geo/coordinates';
import { ProblemException } from './problem.js';

/** For fields that the validators have read already. */
export function degrees(text: string, axis: 'latitude' | 'longitude'): number {
  const value = parseCoordinate(text, axis);
  if (isMalformed(value)) throw new ProblemException('field-refused', { [axis]: value.malformed });
  return value;
}
