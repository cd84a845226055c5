import type { Item } from '../kit/item.js';
import { cutInWords, isCutProved, type PowerCut } from './power-cut.js';

/** What can be seen from here; what is absent cannot be. */
export interface Seen {
  readonly nowMs: number;
  /** Of own map files and own elevation, at the place of the trip. */
  readonly mapCovers?: boolean;
  readonly elevationCovers?: boolean;
  readonly gateways: number;
  /** Of the oldest list that is still believed. */
  readonly listDays?: number;
  readonly freeGb?: number;
  readonly startsByItself?: boolean;
  readonly cut?: PowerCut;
  /** Since the battery was last full, h. */
  readonly chargedHoursAgo?: number;
  readonly links: readonly { readonly name: string; readonly isOpen: boolean }[];
  readonly mailPassword?: 'known' | 'locked' | 'none';
}

/** missing: seen, and not as it should be; open: nobody can see it from here. */
export interface Check {
  readonly id: string;
  readonly what: string;
  readonly why: string;
  readonly state: 'seen' | 'missing' | 'open';
  readonly evidence?: string;
}

/** A list is looked at again after so long, days; power cuts and charges are trusted for so long (common practice, no source). */
const LIST_DAYS = 90;
const CUT_DAYS = 90;
const CHARGED_HOURS = 72;
const LEAST_GB = 1;
const DAY_MS = 86_400_000;

/** parts: of the chain; wantsMail: it is for mail, or mail is set up. */
export function checksOf(parts: readonly Item[], wantsMail: boolean, seen: Seen): Check[] {
  const hosts = parts.filter(({ kind }) => kind === 'host');
  const isPhone = hosts.some(({ host }) => host?.hostClass === 'phone' || host?.hostClass === 'tablet');
  const computer = hosts.find(
    ({ host }) => host && host.hostClass !== 'phone' && host.hostClass !== 'tablet',
  );
  const isHeadless = computer?.host?.hasScreen === false;
  const isBluetooth = parts.some(({ ports }) => ports.some(({ profiles = [] }) => profiles.length > 0));
  const isAntennaApart = parts.some(({ kind, radio }) => kind === 'radio' && radio?.sources.length !== 0);
  return [
    bySight('map', 'A map of the place', 'there is no internet to fetch one', seen.mapCovers, [
      'your own map file covers it',
      'no map file of your own covers the place of the trip',
    ]),
    bySight(
      'elevation',
      'Elevation of the place',
      'paths and gateways are ranked over the ground',
      seen.elevationCovers,
      ['an elevation tile covers it', 'no elevation tile covers the place of the trip'],
    ),
    gatewaysCheck(seen),
    ...(wantsMail ? [passwordCheck(seen)] : []),
    ...(computer ? [spaceCheck(seen), linksCheck(seen), startCheck(seen), cutCheck(seen)] : []),
    ...(isHeadless
      ? [
          byHand('own-network', 'Its own network after a reboot', 'without it no phone reaches the computer'),
          byHand(
            'no-display',
            'It logs in without a display',
            'some computers wait for a screen; a stand-in display helps',
          ),
          byHand('second-way', 'A second way in', 'a cable, a serial console, another phone that is paired'),
        ]
      : []),
    chargedCheck(seen),
    byHand('spare-fuses', 'Spare fuses of each rating', 'a blown fuse ends the day'),
    ...(isPhone
      ? [
          byHand('phone-charged', 'Phone or tablet charged, with a spare', 'screen and radio draw all day'),
          byHand('muted', 'Notifications muted', 'where its sound goes to the radio, they are transmitted'),
          byHand(
            'other-apps',
            'Every other app that may hold the TNC closed',
            'it takes the connection and says nothing',
          ),
          byHand(
            'stays-open',
            'The screen stays on, and is not turned',
            'some programs start again when it is turned or locked',
          ),
        ]
      : []),
    ...(isBluetooth
      ? [
          byHand(
            'paired',
            'Paired here, and with no other host near',
            'it connects to the other one by itself',
          ),
        ]
      : []),
    ...(isAntennaApart
      ? [
          byHand(
            'antenna',
            'Antenna, feed line and adapters',
            'an antenna or dummy load is connected before keying',
          ),
        ]
      : []),
    byHand('channels', 'Channels in the radio, tried', 'the program that loads them holds the port'),
    byHand(
      'licence',
      'Licence and the local rules',
      'power, band and automatic operation differ from place to place',
    ),
  ];
}

const byHand = (id: string, what: string, why: string): Check => ({ id, what, why, state: 'open' });

function bySight(
  id: string,
  what: string,
  why: string,
  isSo: boolean | undefined,
  [yes, no]: readonly [string, string],
): Check {
  if (isSo === undefined) return byHand(id, what, why);
  return { id, what, why, state: isSo ? 'seen' : 'missing', evidence: isSo ? yes : no };
}

function gatewaysCheck({ gateways, listDays }: Seen): Check {
  const base = {
    id: 'gateways',
    what: 'A list of gateways that is not old',
    why: 'the nearest may be silent',
  };
  if (gateways === 0) return { ...base, state: 'missing', evidence: 'nobody is in the directory' };
  if (listDays === undefined) return { ...base, state: 'seen', evidence: `${gateways} are known` };
  const isOld = listDays > LIST_DAYS;
  const evidence = `${gateways} are known, the oldest list of ${Math.floor(listDays)} days`;
  return { ...base, state: isOld ? 'missing' : 'seen', evidence };
}

function passwordCheck({ mailPassword }: Seen): Check {
  const base = {
    id: 'password',
    what: 'The password of the mail account',
    why: 'out there nobody sends a new one',
  };
  if (mailPassword === undefined) return { ...base, state: 'open' };
  const words = {
    known: 'it is known here',
    locked: 'it is kept under its passphrase: know that',
    none: 'it is not kept here',
  };
  return { ...base, state: mailPassword === 'none' ? 'missing' : 'seen', evidence: words[mailPassword] };
}

function spaceCheck({ freeGb }: Seen): Check {
  const base = { id: 'space', what: 'Space on the disk', why: 'what is heard is kept' };
  if (freeGb === undefined) return { ...base, state: 'open' };
  return {
    ...base,
    state: freeGb >= LEAST_GB ? 'seen' : 'missing',
    evidence: `${freeGb.toFixed(1)} GB are free`,
  };
}

function linksCheck({ links }: Seen): Check {
  const base = {
    id: 'links',
    what: 'Every link opens',
    why: 'a port that is there at home may be named otherwise',
  };
  if (links.length === 0) return { ...base, state: 'missing', evidence: 'no link is set up' };
  const shut = links.filter(({ isOpen }) => !isOpen).map(({ name }) => name);
  return shut.length > 0
    ? { ...base, state: 'missing', evidence: `not open: ${shut.join(', ')}` }
    : { ...base, state: 'seen', evidence: `${links.map(({ name }) => name).join(', ')} open` };
}

const startCheck = ({ startsByItself }: Seen): Check =>
  bySight(
    'starts',
    'Mistpeak starts by itself with the computer',
    'there is no keyboard out there',
    startsByItself,
    ['its service is set to start', './mistpeak service sets it up'],
  );

function cutCheck({ cut, nowMs }: Seen): Check {
  const base = {
    id: 'power-cut',
    what: 'A power cut, tried at home',
    why: 'what does not come up by itself is found here, not there',
  };
  if (!cut) return { ...base, state: 'missing', evidence: 'not tried yet' };
  const days = (nowMs - cut.cameUpAtMs) / DAY_MS;
  const isGood = isCutProved(cut) && days <= CUT_DAYS;
  return {
    ...base,
    state: isGood ? 'seen' : 'missing',
    evidence: `${cutInWords(cut)}, ${Math.floor(days)} days ago`,
  };
}

function chargedCheck({ chargedHoursAgo }: Seen): Check {
  const base = {
    id: 'charged',
    what: 'The battery is charged',
    why: 'a rested voltage or the charger says so',
  };
  if (chargedHoursAgo === undefined) return { ...base, state: 'open' };
  return {
    ...base,
    state: chargedHoursAgo <= CHARGED_HOURS ? 'seen' : 'missing',
    evidence: `full ${Math.floor(chargedHoursAgo)} h ago`,
  };
}
