import type { AprsSymbol } from './report.js';

/** A choice from the published symbol tables (1.0.1, appendix "APRS symbol tables"; names shortened; from memory). */
export const COMMON_SYMBOLS: readonly (AprsSymbol & { readonly name: string })[] = [
  { table: '/', code: '-', name: 'house' },
  { table: '/', code: '>', name: 'car' },
  { table: '/', code: '[', name: 'person on foot' },
  { table: '/', code: '#', name: 'digipeater' },
  { table: '/', code: '&', name: 'gateway' },
  { table: '/', code: '_', name: 'weather station' },
  { table: '/', code: 'Y', name: 'sailing boat' },
  { table: '/', code: 's', name: 'motor boat' },
  { table: '/', code: 'O', name: 'balloon' },
  { table: '/', code: 'k', name: 'lorry' },
  { table: '/', code: 'v', name: 'van' },
  { table: '/', code: 'j', name: 'off-road vehicle' },
  { table: '/', code: 'b', name: 'bicycle' },
  { table: '/', code: 'r', name: 'repeater' },
  { table: '/', code: ';', name: 'camp site' },
  { table: '/', code: '+', name: 'first aid' },
  { table: '/', code: 'B', name: 'mailbox' },
  { table: '\\', code: '-', name: 'house, high-frequency station' },
  { table: '\\', code: 'n', name: 'red triangle' },
];

export function symbolName({ table, code }: AprsSymbol): string {
  // An overlay character stands on a symbol of the alternate table.
  const base = table === '/' ? '/' : '\\';
  const known =
    COMMON_SYMBOLS.find((symbol) => symbol.table === base && symbol.code === code) ??
    COMMON_SYMBOLS.find((symbol) => symbol.table === '/' && symbol.code === code && '#&>_'.includes(code));
  return known ? known.name : `symbol ${table}${code}`;
}
