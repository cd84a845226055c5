import { planChains } from '@mistpeak/core/chain/plan';
import { formatKit, parseKit } from '@mistpeak/core/kit/kit-file';
import { fromLibrary, LIBRARY_KINDS } from '@mistpeak/core/kit/library';
import type { Item } from '@mistpeak/core/kit/item';
import { quickest } from './quickest.js';

const OWNED = 200;

/** Planning from two hundred owned items against reading the same kit from its file: equals among them, and none. */
export function chainsBenchmark(): void {
  const kitOf = (change: (i: number) => Partial<Item>): Item[] =>
    Array.from({ length: OWNED }, (_, i) => {
      const kind = LIBRARY_KINDS[i % LIBRARY_KINDS.length] as (typeof LIBRARY_KINDS)[number];
      return fromLibrary(kind, `${kind}-${i}`, { name: `${kind} ${i}`, ...change(i) });
    });
  const kits = {
    'some alike': kitOf(() => ({})),
    'all different': kitOf((i) => ({ version: `1.${i + 3}` })),
  };
  for (const [name, kit] of Object.entries(kits)) {
    const file = formatKit(kit);
    const read = quickest(() => parseKit(file), 3);
    const plan = quickest(() => planChains(kit, 'beacon'), 3);
    console.log(
      `  ${OWNED} items, ${name}: planned in ${plan.toFixed(0)} ms, ${(plan / read).toFixed(0)} × reading the kit (aim: under a second)`,
    );
  }
}
