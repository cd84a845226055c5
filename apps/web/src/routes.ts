import type { ComponentType } from 'react';
import { AirPage } from './routes/air/air-page';
import { BeaconPage } from './routes/beacon/beacon-page';
import { BenchPage } from './routes/bench/bench-page';
import { CallSignsPage } from './routes/call-signs/call-signs-page';
import { ChainPage } from './routes/chain/chain-page';
import { KitPage } from './routes/kit/kit-page';
import { LogbookPage } from './routes/logbook/logbook-page';
import { SettingsPage } from './routes/settings/settings-page';
import { TncPage } from './routes/tnc/tnc-page';

export interface Page {
  readonly path: string;
  /** What may follow the path, as the router writes it. */
  readonly more?: string;
  readonly label: string;
  /** The letter that jumps here, after `g`. */
  readonly key: string;
  /** The Bench stands before the groups; Settings after them. */
  readonly group?: 'Prepare' | 'Tune' | 'Operate' | 'Keep' | 'Foot';
  readonly page: ComponentType;
}

/** Every page in working order: the router and the menu are made of this one list. */
export const PAGES: readonly Page[] = [
  { path: '/bench', label: 'Bench', key: 'h', page: BenchPage },
  { path: '/kit', label: 'Kit', key: 'k', group: 'Prepare', page: KitPage },
  { path: '/chain', more: '/:chain?', label: 'Chain', key: 'n', group: 'Prepare', page: ChainPage },
  { path: '/call-signs', label: 'Call signs', key: 'c', group: 'Prepare', page: CallSignsPage },
  { path: '/tnc', label: 'TNC', key: 't', group: 'Prepare', page: TncPage },
  { path: '/beacon', label: 'Beacon', key: 'e', group: 'Tune', page: BeaconPage },
  { path: '/air', more: '/:station?', label: 'Air', key: 'a', group: 'Operate', page: AirPage },
  { path: '/logbook', label: 'Logbook', key: 'l', group: 'Keep', page: LogbookPage },
  { path: '/settings', label: 'Settings', key: 's', group: 'Foot', page: SettingsPage },
];

export const HOME_PATH = '/bench';
