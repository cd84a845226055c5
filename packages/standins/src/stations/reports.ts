import { encodeMicE } from '@mistpeak/core/aprs/mic-e';
import { encodeObject } from '@mistpeak/core/aprs/object';
import { encodePosition, encodePositionReport } from '@mistpeak/core/aprs/position-report';
import type { AprsReport, AprsSymbol } from '@mistpeak/core/aprs/report';
import type { Position } from '@mistpeak/core/geo/position';
import { fahrenheitToCelsius, MM_PER_INCH, MPS_PER_MPH } from '@mistpeak/core/units/units';
import type { Movement } from './movement.js';

const HOUR_MS = 3_600_000;

/** `/>`: symbol table, then code. */
export function symbol(text: string): AprsSymbol {
  return { table: text.charAt(0), code: text.charAt(1) };
}

export function placeReport(at: Position, symbolText: string, comment: string): string {
  return encodePositionReport(at, symbol(symbolText), { comment });
}

/** Position with course and speed; more: what else it says. */
export function movingReport(
  movement: Movement,
  symbolText: string,
  comment: string,
  more: Partial<AprsReport> = {},
): string {
  return encodePosition({ type: 'position', ...moving(movement, symbolText), comment, ...more });
}

export function compressedReport(at: Position, symbolText: string, comment: string): string {
  return encodePositionReport(at, symbol(symbolText), { comment, compressed: true });
}

/** Mic-E: a part of the report is the destination. */
export function micEReport(
  movement: Movement,
  symbolText: string,
  message: string,
  comment: string,
): { info: string; destination: string } {
  const micE = { message, gpsFix: 'current' as const };
  return encodeMicE({ type: 'mic-e', ...moving(movement, symbolText), micE, comment });
}

function moving({ position, courseDeg, speedKmh }: Movement, symbolText: string): Partial<AprsReport> {
  return { ...position, courseDeg, speedMps: speedKmh / 3.6, symbol: symbol(symbolText) };
}

export function objectReport(
  name: string,
  at: Position,
  symbolText: string,
  words: string,
  atMs: number,
): string {
  return encodeObject({ name, live: true, atMs }, at, symbol(symbolText), words);
}

/** Slow waves over the day, in the units that weather stations count in. */
export function weatherReport(at: Position, atMs: number, { colder = 0, turned = 0 } = {}): string {
  const day = ((atMs / HOUR_MS / 24) % 32) * 2 * Math.PI;
  const wave = (middle: number, swing: number, turns: number): number =>
    middle + swing * Math.sin(day * turns + turned);
  return encodePosition({
    type: 'weather',
    ...at,
    symbol: symbol('/_'),
    weather: {
      windDirectionDeg: wave(310, 25, 9),
      windSpeedMps: wave(24, 6, 31) * MPS_PER_MPH,
      windGustMps: wave(33, 7, 31) * MPS_PER_MPH,
      temperatureC: fahrenheitToCelsius(wave(46, 5, 1) - colder),
      rainLastHourMm: 0.02 * MM_PER_INCH,
      rainLast24hMm: 0.11 * MM_PER_INCH,
      rainSinceMidnightMm: 0.08 * MM_PER_INCH,
      humidityPercent: wave(80, 9, 2),
      pressureHpa: wave(1004, 3.5, 3),
    },
  });
}
