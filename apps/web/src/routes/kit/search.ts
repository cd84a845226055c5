import { connectorName } from '@mistpeak/core/kit/connectors';
import type { Item } from '@mistpeak/core/kit/item';

/** Whether every word stands in what an item is called, what it is, or in the name of one of its sockets. */
export function fits(
  { name, about, ports }: Pick<Item, 'name' | 'about' | 'ports'>,
  wanted: string,
): boolean {
  const text = [name, about, ...ports.map(({ connector }) => connectorName(connector))]
    .join(' ')
    .toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
