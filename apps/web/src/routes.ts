import type { ComponentType } from 'react';
import { later as laterPage, type LaterPage } from './frame/later';
import { BenchPage } from './routes/bench/bench-page';

export interface Page {
  readonly path: string;
  /** What may follow the path, as the router writes it. */
  readonly more?: string;
  readonly label: string;
  /** What is done there, by which the palette finds it. */
  readonly about: string;
  /** The letter that jumps here, after `g`. */
  readonly key: string;
  /** The Bench stands before the groups; Settings after them. */
  readonly group?: 'Prepare' | 'Tune' | 'Operate' | 'Keep' | 'Foot';
  readonly page: ComponentType;
}

const pages: LaterPage[] = [];

/** Whoever looks at the Bench waits for no other page. */
function later(load: () => Promise<ComponentType>): ComponentType {
  const page = laterPage(load);
  pages.push(page);
  return page.Page;
}

/** Every page at hand, one after the other, so that none is missing when the server is away. */
export async function fetchPages(): Promise<void> {
  for (const { fetch } of pages) await fetch().catch(() => undefined);
}

/** Every page in working order: the router and the menu are made of this one list. */
export const PAGES: readonly Page[] = [
  {
    path: '/bench',
    label: 'Bench',
    about: 'climb, proof, evidence, next step, causes',
    key: 'h',
    page: BenchPage,
  },
  {
    path: '/kit',
    label: 'Kit',
    about: 'radio, cable, interface, phone, computer, app, library',
    key: 'k',
    group: 'Prepare',
    page: later(async () => (await import('./routes/kit/kit-page')).KitPage),
  },
  {
    path: '/chain',
    more: '/:chain?',
    label: 'Chain',
    about: 'setup sheet, print, squelch, VOX, volume, bandwidth, mail, messages, gateway, planner',
    key: 'n',
    group: 'Prepare',
    page: later(async () => (await import('./routes/chain/chain-page')).ChainPage),
  },
  {
    path: '/call-signs',
    label: 'Call signs',
    about: 'SSID, passcode, devices, collision',
    key: 'c',
    group: 'Prepare',
    page: later(async () => (await import('./routes/call-signs/call-signs-page')).CallSignsPage),
  },
  {
    path: '/tnc',
    more: '/:link?/:section?',
    label: 'TNC',
    about:
      'link, port, KISS, TXDELAY, persistence, slot time, PTT, frame length, window, sharing, Bluetooth, serial',
    key: 't',
    group: 'Prepare',
    page: later(async () => (await import('./routes/tnc/tnc-page')).TncPage),
  },
  {
    path: '/levels',
    more: '/:check?',
    label: 'Levels',
    about: 'sound card, microphone, volume, twist, clipping, spectrum, waterfall, meter, VOX, recording',
    key: 'v',
    group: 'Tune',
    page: later(async () => (await import('./routes/levels/levels-page')).LevelsPage),
  },
  {
    path: '/path',
    more: '/:section?',
    label: 'Path',
    about: 'digipeater, WIDE1-1, WIDE2-1, hops, reach, terrain, elevation, fill-in, gateway, Fresnel, copies',
    key: 'p',
    group: 'Tune',
    page: later(async () => (await import('./routes/path/path-page')).PathPage),
  },
  {
    path: '/beacon',
    more: '/:section?',
    label: 'Beacon',
    about:
      'position, symbol, path, comment, interval, plan, track, GPX, receiver, voice frequency, places, proof',
    key: 'e',
    group: 'Tune',
    page: later(async () => (await import('./routes/beacon/beacon-page')).BeaconPage),
  },
  {
    path: '/air',
    more: '/:station?',
    label: 'Air',
    about: 'map, log, stations, weather, frequency, objects, capture',
    key: 'a',
    group: 'Operate',
    page: later(async () => (await import('./routes/air/air-page')).AirPage),
  },
  {
    path: '/watch',
    more: '/:section?',
    label: 'Watch',
    about:
      'event desk, overdue, off the route, alarm, acknowledge, duty log, wall screen, list, CSV, carts, teams, boats',
    key: 'd',
    group: 'Operate',
    page: later(async () => (await import('./routes/watch/watch-page')).WatchPage),
  },
  {
    path: '/messages',
    more: '/:section?/:with?',
    label: 'Messages',
    about:
      'message, acknowledgement, ack, bulletin, announcement, group, net, check-in, query, unread, retry',
    key: 'm',
    group: 'Operate',
    page: later(async () => (await import('./routes/messages/messages-page')).MessagesPage),
  },
  {
    path: '/terminal',
    more: '/:section?/:session?',
    label: 'Terminal',
    about:
      'connect, session, mailbox, node, call, via, visit, listing, YAPP, file, password, prompt, command, own mailbox, letters, retries, window',
    key: 'x',
    group: 'Operate',
    page: later(async () => (await import('./routes/terminal/terminal-page')).TerminalPage),
  },
  {
    path: '/mail',
    more: '/:section?/:id?',
    label: 'Mail',
    about:
      'radio mail, letter, compose, inbox, outbox, gateway, session, attachment, minutes, account, password, profile, self-test, form, template, position report, modem program, radio control',
    key: 'i',
    group: 'Operate',
    page: later(async () => (await import('./routes/mail/mail-page')).MailPage),
  },
  {
    path: '/ways',
    more: '/:section?',
    label: 'Ways',
    about:
      'internet, APRS-IS, server, passcode, filter, gate, fill-in, digipeater, what leaves by which way, senders, switches',
    key: 'w',
    group: 'Operate',
    page: later(async () => (await import('./routes/ways/ways-page')).WaysPage),
  },
  {
    path: '/gateways',
    more: '/:section?',
    label: 'Gateways',
    about:
      'gateway, mailbox, node, repeater, directory, list, bearing, rose, try list, channels, CSV, import, nearest, card',
    key: 'j',
    group: 'Keep',
    page: later(async () => (await import('./routes/gateways/gateways-page')).GatewaysPage),
  },
  {
    path: '/logbook',
    more: '/:section?/:id?',
    label: 'Logbook',
    about:
      'record, trials, results, mark, what changed, worked yesterday, trip, note, picture, contacts, ADIF, backup',
    key: 'l',
    group: 'Keep',
    page: later(async () => (await import('./routes/logbook/logbook-page')).LogbookPage),
  },
  {
    path: '/field',
    more: '/:section?',
    label: 'Field',
    about:
      'battery, hours left, ampere-hours, solar, panel, wire, gauge, fuse, voltage drop, isolator, exposure, distance from the antenna',
    key: 'f',
    group: 'Keep',
    page: later(async () => (await import('./routes/field/field-page')).FieldPage),
  },
  {
    path: '/drills',
    label: 'Drills',
    about: 'practise, exercise, fault, cause, tests, score, course, what is wrong',
    key: 'r',
    group: 'Keep',
    page: later(async () => (await import('./routes/drills/drills-page')).DrillsPage),
  },
  {
    path: '/settings',
    label: 'Settings',
    about: 'operator, place, units, passwords, pairing, devices, light',
    key: 's',
    group: 'Foot',
    page: later(async () => (await import('./routes/settings/settings-page')).SettingsPage),
  },
];

export const HOME_PATH = '/bench';
