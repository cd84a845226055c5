import { decodeAddressField } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';

/** `from QH7CTB-9` where another station repeated it. */
export function describeRaw(raw: Uint8Array): string {
  const field = decodeAddressField(raw);
  if (isMalformed(field)) return '';
  return field.path.some(({ used }) => used) ? `repeats ${field.source}` : '';
}
