import type { Connector } from '../kit/connectors.js';
import type { Item } from '../kit/item.js';
import type { Walk } from './walk.js';

export interface Shelved {
  readonly item: Item;
  readonly isMissing: boolean;
}

/** The items by what they plug into, so that a walk meets only what could fit. */
export class Shelf {
  readonly radios: readonly Shelved[];
  private readonly apps: readonly Shelved[];
  private readonly programsAndHosts: readonly Shelved[];
  private readonly byConnector = new Map<Connector, Shelved[]>();

  constructor(items: readonly Item[], spare: readonly Item[]) {
    const all: Shelved[] = [
      ...items.map((item) => ({ item, isMissing: false })),
      ...spare.map((item) => ({ item, isMissing: true })),
    ];
    const ofKind = (kind: Item['kind']): Shelved[] => all.filter(({ item }) => item.kind === kind);
    this.radios = ofKind('radio');
    this.apps = ofKind('app');
    this.programsAndHosts = [...this.apps, ...ofKind('host')];
    for (const shelved of all.filter(({ item }) => item.kind !== 'radio')) {
      for (const connector of new Set(shelved.item.ports.map((port) => port.connector))) {
        const list = this.byConnector.get(connector);
        if (list) list.push(shelved);
        else this.byConnector.set(connector, [shelved]);
      }
    }
  }

  /** What could come next. */
  after(exit: Walk['exit']): readonly Shelved[] {
    if (exit === 'inside') return this.apps;
    if (exit === 'service') return this.programsAndHosts;
    return this.byConnector.get(exit.connector) ?? [];
  }
}
