import Papa from 'papaparse';
import { wayTo, type Position } from '../geo/position.js';
import type { Station } from '../stations/station.js';

/** A voice channel that somebody announces. */
export interface VoiceChannel {
  /** Who announces it: a station, or an object's name. */
  readonly name: string;
  /** On which a radio listens. */
  readonly receiveMHz: number;
  /** Transmit minus receive, kHz; 0: simplex. */
  readonly shiftKHz: number;
  /** A repeater has a shift, or says of itself that it listens elsewhere; a tone alone makes none. */
  readonly kind: 'repeater' | 'simplex';
  readonly toneHz?: number;
  /** The tone opens the receiver too. */
  readonly toneSquelch?: boolean;
  readonly dcs?: string;
  readonly narrow: boolean;
  readonly rangeKm?: number;
  /** What it says of itself: net times among it. */
  readonly words: string;
  readonly position?: Position;
  readonly distanceKm?: number;
  readonly bearingDeg?: number;
  readonly heardAtMs: number;
  /** Not announced for so long that it may have ended. */
  readonly isStale: boolean;
}

/** An object is sent every ten minutes to half an hour (common practice, no source). */
export const STALE_MS = 2 * 3_600_000;
const DROPPED_MS = 24 * 3_600_000;
const FAR_KM = 1e6;
/** The code of gateways in either symbol table (APRS symbol tables). */
const GATEWAY = '&';

/** The voice channels of those heard within a day, the nearest first; those without a place last. from: where one is. */
export function voiceList(
  stations: Iterable<Station>,
  { nowMs, from }: { readonly nowMs: number; readonly from?: Position | undefined },
): VoiceChannel[] {
  const channels: VoiceChannel[] = [];
  for (const station of stations) {
    const channel = nowMs - station.heardAtMs <= DROPPED_MS ? channelOf(station, nowMs, from) : undefined;
    if (channel) channels.push(channel);
  }
  return channels.sort(
    (a, b) =>
      (a.distanceKm ?? FAR_KM) - (b.distanceKm ?? FAR_KM) ||
      a.receiveMHz - b.receiveMHz ||
      (a.name < b.name ? -1 : 1),
  );
}

function channelOf(
  { name, frequency, position, symbol, heardAtMs, comment = '' }: Station,
  nowMs: number,
  from: Position | undefined,
): VoiceChannel | undefined {
  // A gateway tells its packet channel.
  if (frequency?.frequencyMHz === undefined || symbol?.code === GATEWAY) return undefined;
  const {
    frequencyMHz,
    receiveMHz,
    offsetKHz = 0,
    toneHz,
    toneSquelch,
    toneOff,
    dcs,
    narrow = false,
    rangeKm,
  } = frequency;
  // Whoever listens elsewhere than he sends is called there (APRS 1.2, "Frequency specification").
  const shiftKHz = receiveMHz === undefined ? offsetKHz : Math.round((receiveMHz - frequencyMHz) * 1000);
  const way = from && position ? wayTo(from, position) : undefined;
  return {
    name,
    receiveMHz: frequencyMHz,
    shiftKHz,
    kind: shiftKHz === 0 ? 'simplex' : 'repeater',
    ...(toneHz === undefined || toneOff ? {} : { toneHz, toneSquelch: toneSquelch === true }),
    ...(dcs === undefined ? {} : { dcs }),
    narrow,
    ...(rangeKm === undefined ? {} : { rangeKm }),
    words: comment,
    ...(position ? { position } : {}),
    ...(way ?? {}),
    heardAtMs,
    isStale: nowMs - heardAtMs > STALE_MS,
  };
}

/** For loading into a radio: one channel a line, MHz with five digits, what a column has no value for is empty (RFC 4180). */
export function voiceListCsv(channels: readonly VoiceChannel[]): string {
  const data = channels.map(({ name, receiveMHz, shiftKHz, toneHz, toneSquelch, dcs, narrow, words }) => ({
    name,
    receive_mhz: receiveMHz.toFixed(5),
    transmit_mhz: (receiveMHz + shiftKHz / 1000).toFixed(5),
    shift_khz: shiftKHz,
    tone_hz: toneHz === undefined ? '' : toneHz.toFixed(1),
    tone_on_receive: toneSquelch ? 'yes' : 'no',
    code: dcs ?? '',
    width: narrow ? 'narrow' : 'wide',
    notes: words,
  }));
  const fields = [
    'name',
    'receive_mhz',
    'transmit_mhz',
    'shift_khz',
    'tone_hz',
    'tone_on_receive',
    'code',
    'width',
    'notes',
  ];
  return `${Papa.unparse({ fields, data }, { newline: '\r\n', escapeFormulae: true })}\r\n`;
}
