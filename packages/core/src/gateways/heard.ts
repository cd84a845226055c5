import { isMalformed } from '../bits/malformed.js';
import { formatCallSign, parseCallSign } from '../callsign/callsign.js';
import type { Station } from '../stations/station.js';
import { voiceList } from '../voice-list/voice-list.js';
import type { FacilityFacts, FacilityKind } from './facility.js';

/** What a station’s code in the symbol table says that it does (APRS symbol tables). */
const KIND_OF_CODE: Readonly<Record<string, FacilityKind>> = {
  '/#': 'digipeater',
  '\\#': 'digipeater',
  '/B': 'mailbox',
  '\\B': 'mailbox',
  '/n': 'node',
  '/r': 'voice repeater',
};
/** Gateways that carry mail say so with an overlay or in their words; a plain gate to the internet carries none. */
const MAIL = /\b(?:mail|winlink)\b/i;

/** What those who were heard announce of themselves. channelMHz: on which they were heard, for digipeaters. */
export function heardFacilities(
  stations: Iterable<Station>,
  { nowMs, channelMHz }: { readonly nowMs: number; readonly channelMHz: number | undefined },
): FacilityFacts[] {
  const known = [...stations];
  const voice = new Map(voiceList(known, { nowMs }).map((channel) => [channel.name, channel]));
  return known.flatMap((station) => {
    const call = callOf(station);
    if (call === undefined) return [];
    const { comment = '', position, frequency } = station;
    const channel = voice.get(station.name);
    const base = { call, mode: '', hours: '', notes: comment, ...(position ? { position } : {}) };
    const kind = kindOf(station);
    if (channel?.kind === 'repeater' && kind !== 'mail gateway')
      return {
        ...base,
        kind: 'voice repeater' as const,
        mode: 'FM',
        frequencyMHz: channel.receiveMHz,
        shiftMHz: channel.shiftKHz / 1000,
        ...(channel.toneHz === undefined ? {} : { toneHz: channel.toneHz }),
      };
    if (kind === undefined || kind === 'voice repeater') return [];
    const frequencyMHz = frequency?.frequencyMHz ?? (kind === 'digipeater' ? channelMHz : undefined);
    return frequencyMHz === undefined ? [] : { ...base, kind, mode: 'packet 1200', frequencyMHz };
  });
}

/** An object is often named by its frequency: then whoever sends it is called. */
function callOf({ name, sender }: Station): string | undefined {
  for (const text of [name, sender]) {
    const call = parseCallSign(text.trim());
    if (!isMalformed(call) && /[A-Z]/.test(call.call) && /\d/.test(call.call)) return formatCallSign(call);
  }
  return undefined;
}

function kindOf({ symbol, comment = '' }: Station): FacilityKind | undefined {
  if (!symbol) return undefined;
  if (symbol.code === '&') return MAIL.test(comment) ? 'mail gateway' : undefined;
  const table = symbol.table === '/' ? '/' : '\\';
  const kind = KIND_OF_CODE[table + symbol.code];
  return kind === 'node' && MAIL.test(comment) ? 'mail gateway' : kind;
}
