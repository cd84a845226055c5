import { encodeMessage } from '@mistpeak/core/aprs/message';
import { encodeThirdParty } from '@mistpeak/core/aprs/third-party';
import type { Position } from '@mistpeak/core/geo/position';
import type { SiteAt } from '../world/ears.js';
import type { Island } from '../terrain/island.js';
import { PLACES } from '../terrain/places.js';
import { toPosition, type Spot } from '../terrain/plane.js';
import type { Road } from '../terrain/roads.js';
import { balloonFlight } from './balloon.js';
import type { Beaconing } from './beaconing.js';
import { along, type Movement } from './movement.js';
import {
  compressedReport,
  micEReport,
  movingReport,
  objectReport,
  placeReport,
  weatherReport,
} from './reports.js';

const SECOND = 1000;
const MINUTE = 60 * SECOND;
/** What stands round an antenna takes its part, dB (common practice, no source). */
const HOUSES_DB = 16;
const ROADSIDE_DB = 16;
const BODY_DB = 8;
const MASTS_DB = 12;
const WOOD_DB = 16;

/** Who answers connected calls. */
export const HUT_MAILBOX = 'QH2HUT-1';
export const NODE = 'QH2NOD-4';

/** Who hands on radio mail: where, how high, how strong. One is silent: its set hears and never answers. */
export const MAIL_GATEWAYS = ['QH5VEL-10', 'QH5OST-10', 'QH5SAL-10', 'QH5COR-10', 'QH5QUI-10'] as const;

const MOBILE_PATH = 'WIDE1-1,WIDE2-1';

/** One set of the island's channel: where it is, with which radio, what it sends, and whether it repeats. */
export interface CastMember {
  readonly call: string;
  readonly site: SiteAt;
  readonly beacons: readonly Beaconing[];
  readonly digipeater?: 'wide' | 'fill-in';
}

/** Everybody on the air on Hollin Island during the seabird count. */
export function castOf(island: Island, roads: readonly Road[]): CastMember[] {
  const way = (name: string): readonly Spot[] => (roads.find((road) => road.name === name) as Road).way;
  return [
    ...fixedCast(island),
    cart('QH7CTA-9', way('valley road'), 26, '/k', 'cart A, lamps and water', 110 * SECOND, 0),
    {
      ...cart('QH7CTB-9', way('east road'), 30, '/v', '', 120 * SECOND, 25),
      beacons: [compressedCart(way('east road'))],
    },
    cart('QH7CTC-9', way('harbour road'), 34, '/>', 'cart C, supplies for hide 2', 30 * SECOND, 1),
    cart('QH7CTD-9', way('peak track'), 14, '/j', 'cart D, to the peak', 150 * SECOND, 40),
    {
      ...cart('QH7CTE-9', way('head track'), 18, '/j', '', 130 * SECOND, 55),
      beacons: [micECart(way('head track'))],
    },
    cart('QH7CTF-9', way('west track'), 16, '/k', 'cart F, tents', 140 * SECOND, 70),
    team(island, 'QH8CLA-7', 1.9, 2.5, 'cliff team A, walking', 45 * SECOND, 8),
    team(island, 'QH8CLB-7', 0.5, 1.0, 'cliff team B', 170 * SECOND, 30),
    team(island, 'QH8CLC-7', 3.4, 3.9, 'cliff team C', 180 * SECOND, 60),
    team(island, 'QH8CLD-7', 4.9, 5.3, 'cliff team D', 190 * SECOND, 95),
    boat(island, 'QH8BTA-8', 4.1, 5.9, '/Y', 'counting from the water', 100 * SECOND, 15),
    {
      ...boat(island, 'QH8BTB-8', 0.9, 2.7, '/s', '', 115 * SECOND, 65),
      beacons: [carelessBoat(island)],
    },
    {
      call: 'QH9BLN-11',
      site: (atMs) => ({ ...balloonFlight(atMs), isAboveSea: true, powerW: 0.5, gainDbi: 0 }),
      beacons: [{ path: 'WIDE2-1', everyMs: MINUTE, phaseMs: 33 * SECOND, info: balloonReport }],
    },
  ];
}

function fixedCast(island: Island): CastMember[] {
  const hide = (angle: number): Position => toPosition(island.offCoast(angle, 0.94));
  const hides = [2.2, 1.3, 0.35, 5.6, 3.7, 2.9].map(hide);
  return [
    {
      ...fixed('QH1ANR', PLACES.anrickHead, 15, 25, 3),
      digipeater: 'wide',
      beacons: [
        every(10 * MINUTE, 2.5 * SECOND, '', () =>
          placeReport(PLACES.anrickHead, '/#', 'digipeater, Anrick Head 667 m'),
        ),
        every(10 * MINUTE, 312 * SECOND, '', (atMs) =>
          objectReport('145.675', PLACES.anrickHead, '/r', 'T094 -060 R25k island repeater', atMs),
        ),
      ],
    },
    {
      ...fixed('QH1TOP', PLACES.mistpeak, 8, 10, 3),
      digipeater: 'wide',
      beacons: [
        every(10 * MINUTE, 75 * SECOND, 'WIDE2-1', () =>
          placeReport(PLACES.mistpeak, '/#', 'digipeater, Mistpeak 1214 m'),
        ),
      ],
    },
    {
      ...fixed('QH2FIL-1', PLACES.netherQuill, 14, 10, 3 - HOUSES_DB),
      digipeater: 'fill-in',
      beacons: [
        every(15 * MINUTE, 205 * SECOND, 'WIDE1-1', () =>
          placeReport(PLACES.netherQuill, '1#', 'fill-in, Nether Quill'),
        ),
      ],
    },
    {
      ...fixed('QH3PRT-10', PLACES.portVelan, 12, 25, 5 - HOUSES_DB),
      beacons: [
        every(12 * MINUTE, 140 * SECOND, 'WIDE2-1', () =>
          placeReport(PLACES.portVelan, 'I&', 'internet gateway, Port Velan'),
        ),
        every(20 * MINUTE, 95 * SECOND, 'WIDE2-1', (atMs) =>
          objectReport('KITCHEN', PLACES.sallomere, '\\R', 'field kitchen, soup until 19:00', atMs),
        ),
        every(20 * MINUTE, 250 * SECOND, 'WIDE2-1', () =>
          encodeMessage('BLN1', 'seabird count: tallies to COUNTERS by seven, please'),
        ),
        every(30 * MINUTE, 400 * SECOND, 'WIDE2-1', () => '<IGATE,MSG_CNT=42,LOC_CNT=21'),
        every(15 * MINUTE, 520 * SECOND, 'WIDE2-1', () =>
          encodeThirdParty(
            'QH5OST-10',
            'APZMPK',
            ['TCPIP', 'QH3PRT-10*'],
            placeReport(PLACES.ostrick, 'W&', 'mail gateway Ostrick 144.875MHz'),
          ),
        ),
        ...hides.map((at, i) =>
          every(25 * MINUTE, (170 + 230 * i) * SECOND, 'WIDE2-1', (atMs) =>
            objectReport(`H${i + 1}`, at, '/;', `hide ${i + 1}`, atMs),
          ),
        ),
      ],
    },
    { ...fixed(HUT_MAILBOX, PLACES.portVelan, 14, 25, 5 - HOUSES_DB), beacons: [] },
    { ...fixed(NODE, PLACES.anrickHead, 12, 10, 2), beacons: [] },
    { ...fixed('QH5VEL-10', PLACES.portVelan, 20, 25, 6 - HOUSES_DB), beacons: [] },
    { ...fixed('QH5OST-10', PLACES.ostrick, 18, 25, 5), beacons: [] },
    { ...fixed('QH5SAL-10', PLACES.sallomere, 10, 10, 3 - HOUSES_DB), beacons: [] },
    { ...fixed('QH5COR-10', PLACES.corvelTop, 12, 25, 6), beacons: [] },
    { ...fixed('QH5QUI-10', PLACES.netherQuill, 15, 10, 3), beacons: [] },
    {
      ...fixed('QH6WXA-13', PLACES.weatherPoint, 10, 5, 2 - HOUSES_DB),
      beacons: [every(2 * MINUTE, 4 * SECOND, 'WIDE2-1', (atMs) => weatherReport(PLACES.weatherPoint, atMs))],
    },
    {
      ...fixed('QH6WXB-13', PLACES.corvelTop, 6, 5, 2 - HOUSES_DB),
      beacons: [
        every(5 * MINUTE, 64 * SECOND, 'WIDE2-1', (atMs) =>
          weatherReport(PLACES.corvelTop, atMs, { colder: 10, turned: 1.2 }),
        ),
      ],
    },
  ];
}

function every(
  everyMs: number,
  phaseMs: number,
  path: string,
  info: (atMs: number) => string | undefined,
): Beaconing {
  return { everyMs, phaseMs, path, info };
}

function fixed(
  call: string,
  position: Position,
  heightM: number,
  powerW: number,
  gainDbi: number,
): Pick<CastMember, 'call' | 'site'> {
  return { call, site: () => ({ position, heightM, powerW, gainDbi }) };
}

/** A cart on its road: out, an hour's third of unloading, back. */
function cart(
  call: string,
  way: readonly Spot[],
  kmh: number,
  symbol: string,
  words: string,
  everyMs: number,
  phaseS: number,
): CastMember {
  const where = along({ way, kmh, restMs: 20 * MINUTE, phaseMs: phaseS * 41 * SECOND });
  return {
    call,
    site: mobileSite(where, 2, 25, 2 - ROADSIDE_DB),
    beacons: [
      every(everyMs, phaseS * SECOND, MOBILE_PATH, (atMs) => movingReport(where(atMs), symbol, words)),
    ],
  };
}

function compressedCart(way: readonly Spot[]): Beaconing {
  const where = along({ way, kmh: 30, restMs: 20 * MINUTE, phaseMs: 25 * 41 * SECOND });
  return every(120 * SECOND, 25 * SECOND, MOBILE_PATH, (atMs) =>
    compressedReport(where(atMs).position, '/v', 'cart B, food'),
  );
}

/** Cart E has a set that packs its report into the destination. */
function micECart(way: readonly Spot[]): Beaconing {
  const where = along({ way, kmh: 18, restMs: 20 * MINUTE, phaseMs: 55 * 41 * SECOND });
  return {
    ...every(130 * SECOND, 55 * SECOND, MOBILE_PATH, () => undefined),
    info: (atMs) => micEReport(where(atMs), '/j', 'en route', 'cart E, batteries 145.500MHz'),
  };
}

/** A team on foot on the cliffs between two directions, a handheld on the belt. */
function team(
  island: Island,
  call: string,
  fromAngle: number,
  toAngle: number,
  words: string,
  everyMs: number,
  phaseS: number,
): CastMember {
  const way = coastWay(island, fromAngle, toAngle, 0.93);
  const where = along({ way, kmh: 3, restMs: 15 * MINUTE, phaseMs: phaseS * 97 * SECOND });
  return {
    call,
    site: mobileSite(where, 1.5, 5, -BODY_DB - ROADSIDE_DB),
    beacons: [
      every(everyMs, phaseS * SECOND, MOBILE_PATH, (atMs) => movingReport(where(atMs), '/[', words)),
      ...talk(call, phaseS),
    ],
  };
}

/** Team B tells the gateway its counts. */
function talk(call: string, phaseS: number): Beaconing[] {
  if (call !== 'QH8CLB-7') return [];
  const number = (atMs: number): string => String(Math.floor(atMs / (10 * MINUTE)) % 1000);
  const birds = (atMs: number): number => 120 + ((Math.floor(atMs / (10 * MINUTE)) * 37) % 160);
  return [
    every(10 * MINUTE, (phaseS + 47) * SECOND, MOBILE_PATH, (atMs) =>
      encodeMessage('QH3PRT-10', `count hide 3: ${birds(atMs)} birds`, number(atMs)),
    ),
  ];
}

function boat(
  island: Island,
  call: string,
  fromAngle: number,
  toAngle: number,
  symbol: string,
  words: string,
  everyMs: number,
  phaseS: number,
): CastMember {
  const where = boatsWay(island, fromAngle, toAngle, phaseS);
  return {
    call,
    site: mobileSite(where, 4, 10, 1 - MASTS_DB),
    beacons: [
      every(everyMs, phaseS * SECOND, MOBILE_PATH, (atMs) => movingReport(where(atMs), symbol, words)),
    ],
  };
}

/** Boat B asks for more hops than anybody needs: there is one on every channel. */
function carelessBoat(island: Island): Beaconing {
  const where = boatsWay(island, 0.9, 2.7, 65);
  return every(115 * SECOND, 65 * SECOND, 'WIDE1-1,WIDE3-3', (atMs) =>
    movingReport(where(atMs), '/s', 'boat B, north cliffs'),
  );
}

function boatsWay(
  island: Island,
  fromAngle: number,
  toAngle: number,
  phaseS: number,
): (atMs: number) => Movement {
  const way = coastWay(island, fromAngle, toAngle, 1.08);
  return along({ way, kmh: 9, restMs: 30 * MINUTE, phaseMs: phaseS * 53 * SECOND });
}

function coastWay(island: Island, fromAngle: number, toAngle: number, share: number): Spot[] {
  return Array.from({ length: 25 }, (_, i) =>
    island.offCoast(fromAngle + ((toAngle - fromAngle) * i) / 24, share),
  );
}

function mobileSite(
  where: (atMs: number) => Movement,
  heightM: number,
  powerW: number,
  gainDbi: number,
): SiteAt {
  return (atMs) => ({ position: where(atMs).position, heightM, powerW, gainDbi });
}

function balloonReport(atMs: number): string | undefined {
  const { position, heightM, courseDeg, speedKmh, isFlying } = balloonFlight(atMs);
  if (!isFlying) return undefined;
  const count = Math.floor(atMs / MINUTE) % 8280;
  const analog = [Math.round(3900 - heightM / 40), Math.round(2600 - heightM / 12), 640];
  return movingReport({ position, courseDeg, speedKmh }, '/O', 'weather balloon', {
    altitudeM: heightM,
    telemetry: { sequence: count, analog },
  });
}

/** The base hut's mast: FM mobile, 25 W. */
export const HUT_SITE: SiteAt = () => ({
  position: PLACES.baseHut,
  heightM: 9,
  powerW: 25,
  gainDbi: 3 - WOOD_DB,
});
