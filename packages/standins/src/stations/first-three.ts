import { encodeObject } from '@mistpeak/core/aprs/object';
import { encodePlainPosition } from '@mistpeak/core/aprs/plain-position';
import { placeAt, wayTo, type Position } from '@mistpeak/core/geo/position';
import { PLACES } from '../world/island.js';
import type { Beaconing } from './beaconing.js';

const HOUR_MS = 3_600_000;

/** Three stations that beacon: a weather station, a supply cart on the road, a cliff team on foot. */
export const FIRST_THREE: readonly Beaconing[] = [
  {
    call: 'QH6WXA-13',
    path: 'WIDE2-1',
    everyMs: 60_000,
    firstAfterMs: 4_000,
    info: (atMs) => `!${encodePlainPosition(PLACES.sallomere, { table: '/', code: '_' })}${weather(atMs)}`,
  },
  {
    call: 'QH7CTC-9',
    path: 'WIDE1-1,WIDE2-1',
    everyMs: 20_000,
    firstAfterMs: 1_500,
    info: (atMs) => moving(atMs, [PLACES.sallomere, PLACES.ostrick], 34, '>', 'cart C, supplies for hide 2'),
  },
  {
    call: 'QH8CLA-7',
    path: 'WIDE1-1,WIDE2-1',
    everyMs: 45_000,
    firstAfterMs: 8_000,
    info: (atMs) => moving(atMs, [PLACES.netherQuill, PLACES.baseHut], 3, '[', 'cliff team A, walking'),
  },
];

/** What the digipeater says of itself, and the voice repeater beside it as an object. */
export const DIGIPEATER_BEACONS: readonly Beaconing[] = [
  {
    call: 'QH1ANR',
    path: '',
    everyMs: 300_000,
    firstAfterMs: 2_500,
    info: () =>
      `!${encodePlainPosition(PLACES.anrickHead, { table: '/', code: '#' })}digipeater, Anrick Head 667 m`,
  },
  {
    call: 'QH1ANR',
    path: '',
    everyMs: 600_000,
    firstAfterMs: 12_000,
    info: (atMs) =>
      encodeObject(
        { name: '145.675', live: true, atMs },
        PLACES.anrickHead,
        { table: '/', code: 'r' },
        'T094 -060 R25k island repeater',
      ),
  },
];

/** 000/000g000t000…: wind in mph, °F, hundredths of an inch, tenths of hPa, slow waves over the day. */
function weather(atMs: number): string {
  const day = (atMs / HOUR_MS / 24) * 2 * Math.PI;
  const wave = (middle: number, swing: number, turns: number): number =>
    middle + swing * Math.sin(day * turns);
  const digits = (value: number, width: number): string => String(Math.round(value)).padStart(width, '0');
  const wind = `${digits(wave(310, 25, 9), 3)}/${digits(wave(24, 6, 31), 3)}g${digits(wave(33, 7, 31), 3)}`;
  return `${wind}t${digits(wave(46, 5, 1), 3)}r002p011P008h${digits(wave(80, 9, 2), 2)}b${digits(wave(10040, 35, 3), 5)}`;
}

/** Up and down the way between two places at a steady speed. */
function moving(
  atMs: number,
  way: readonly [Position, Position],
  kmh: number,
  code: string,
  words: string,
): string {
  const { distanceKm, bearingDeg } = wayTo(...way);
  const done = ((atMs / HOUR_MS) * kmh) % (2 * distanceKm);
  const isOutward = done <= distanceKm;
  const position = placeAt(way[0], isOutward ? done : 2 * distanceKm - done, bearingDeg);
  const course = Math.round(isOutward ? bearingDeg : (bearingDeg + 180) % 360) || 360;
  const knots = Math.round(kmh / 1.852);
  const movement = `${String(course).padStart(3, '0')}/${String(knots).padStart(3, '0')}`;
  return `!${encodePlainPosition(position, { table: '/', code })}${movement}${words}`;
}
