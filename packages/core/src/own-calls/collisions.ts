import type { Ax25Frame } from '../ax25/frame.js';
import { duplicateKey } from '../digipeating/digipeater.js';
import { callWithoutSsid } from '../callsign/callsign.js';
import { ssidRole } from '../callsign/roles.js';

/** One own station as planned: call with SSID, and the device that uses it. */
export interface PlannedStation {
  readonly call: string;
  readonly device: string;
}

/** Two devices with one call-SSID: one station jumps about, and a message acknowledged by the wrong one is lost. */
export interface PlanCollision {
  readonly call: string;
  readonly devices: readonly string[];
}

export function planCollisions(stations: readonly PlannedStation[]): PlanCollision[] {
  const devices = new Map<string, string[]>();
  for (const { call, device } of stations) devices.set(call, [...(devices.get(call) ?? []), device]);
  return [...devices]
    .filter(([, names]) => names.length > 1)
    .map(([call, names]) => ({ call, devices: names }));
}

/**
 * An own call on the air that this program did not send. `used here`: the call that this program transmits as, so
 * two devices share it now. `not planned`: an SSID of ours that no listed device uses.
 */
export interface ForeignUse {
  readonly call: string;
  readonly problem: 'used here' | 'not planned';
  readonly frame: Ax25Frame;
}

/**
 * Frames heard with our licence call, less the copies of what we sent. sent: keys of our own frames
 * (duplicateKey); a frame older than they reach cannot be judged and must not be given.
 */
export function foreignUses(
  heard: readonly Ax25Frame[],
  own: {
    readonly licenceCall: string;
    readonly usedHere: readonly string[];
    readonly planned: readonly string[];
  },
  sent: ReadonlySet<string>,
): ForeignUse[] {
  return heard
    .filter(({ source }) => callWithoutSsid(source) === own.licenceCall)
    .filter((frame) => !sent.has(duplicateKey(frame)))
    .flatMap((frame): ForeignUse[] => {
      if (own.usedHere.includes(frame.source)) return [{ call: frame.source, problem: 'used here', frame }];
      return own.planned.includes(frame.source)
        ? []
        : [{ call: frame.source, problem: 'not planned', frame }];
    });
}

/** The convention and free choice are both in use: what others may take this station for, if that is not its role. */
export function misreading(ssid: number, role: string): string | undefined {
  const convention = ssidRole(ssid);
  if (role.trim() === '' || convention === 'generic') return undefined;
  const words = (text: string): string[] => text.toLowerCase().match(/[a-z]{4,}/g) ?? [];
  const shared = words(role).some((word) => words(convention).includes(word));
  return shared || convention.startsWith('general') ? undefined : convention;
}
