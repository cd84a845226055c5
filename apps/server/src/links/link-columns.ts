import { isSound, type LinkSettings } from '@mistpeak/contract/link';
import { heldBy, soundText, USUAL_SOUND_SETUP, whySoundIsRefused } from '@mistpeak/contract/sound';
import { openKeyPort } from '../adapters/sound/key-ports.js';
import { keyOf } from '../adapters/sound/sound-card.js';
import { ProblemException } from '../problems/problem.js';
import type { LinkEntity } from './link.entity.js';

export function settingsOf(row: LinkEntity): LinkSettings {
  const { name, kind, airRate, txDelayMs, persistence, slotTimeMs, txTailMs } = row;
  const wire = {
    ...(row.host === null ? {} : { host: row.host }),
    ...(row.port === null ? {} : { port: row.port }),
    ...(row.device === null ? {} : { device: row.device }),
    ...(row.speed === null ? {} : { speed: row.speed }),
    ...(row.sound === null ? {} : { sound: row.sound }),
  };
  return {
    name,
    kind: kind as LinkSettings['kind'],
    ...wire,
    airRate,
    txDelayMs,
    persistence,
    slotTimeMs,
    txTailMs,
    ...(row.stationId === null ? {} : { stationId: row.stationId }),
  };
}

export function columnsOf({ version: _, ...settings }: LinkSettings): Partial<LinkEntity> {
  const { kind } = settings;
  const isNetwork = kind === 'network';
  const hasSpeed = kind === 'serial' || kind === 'page-serial';
  return {
    ...settings,
    name: settings.name.trim(),
    stationId: settings.stationId ?? null,
    host: isNetwork ? (settings.host?.trim() ?? null) : null,
    port: isNetwork ? (settings.port ?? null) : null,
    device: kind === 'serial' ? (settings.device ?? null) : null,
    speed: hasSpeed ? (settings.speed ?? null) : null,
    sound: isSound(settings) ? (settings.sound ?? USUAL_SOUND_SETUP) : null,
  };
}

export function openedWords({ kind, host, port, device, speed, sound }: LinkSettings): string {
  switch (kind) {
    case 'network':
      return `${host}:${port} opened`;
    case 'serial':
      return `${device} opened at ${speed} Bd`;
    case 'page-serial':
      return `a page lends its serial port, at ${speed} Bd`;
    case 'page-bluetooth':
      return 'a page lends its Bluetooth LE device';
    case 'page-sound':
      return 'a page lends its sound card';
    case 'sound-card':
      return `the sound card ${sound?.input ?? ''} opened`;
  }
}

export function wireOf({ kind, host, port, device, speed, sound, airRate }: LinkSettings): string {
  return [kind, host, port, device, speed, ...(sound ? [airRate, soundText(sound)] : [])].join(' ');
}

/** Of what is at a browser this machine knows nothing. */
export function heldOf({ kind, sound, device }: LinkSettings): readonly string[] {
  if (kind === 'sound-card') return heldBy(sound ?? USUAL_SOUND_SETUP);
  return kind === 'serial' && device ? [device] : [];
}

export function refuseSound({ sound }: LinkSettings): void {
  const why = sound && whySoundIsRefused(sound);
  if (why) throw new ProblemException('field-refused', { sound: why });
}

/** A pin that an earlier run left set holds a radio keyed: it is let go, whether its link is opened or not. */
export async function letGoOfPin({ kind, sound }: LinkSettings): Promise<void> {
  const key = kind === 'sound-card' && sound ? keyOf(sound) : undefined;
  if (key?.kind !== 'pin') return;
  try {
    const port = await openKeyPort(key);
    await port.set(false);
    await port.close();
  } catch {
    // The chip is not there: nothing is held.
  }
}

/** 31 bits of the id: two links sharing them would only hinder each other, at odds of one in two thousand million. */
export function lockKey(id: string): number {
  return Number.parseInt(id.replaceAll('-', '').slice(0, 8), 16) & 0x7fffffff;
}
