import { existsSync, readFileSync, statfsSync } from 'node:fs';
import { uptime } from 'node:os';
import { ownAddresses } from '../lan/lan.service.js';

/** What the computer tells of itself. Tests put another in its place. */
export interface Machine {
  /** Another one with each start of the computer. */
  readonly bootId: () => string;
  /** Since it was started, s. */
  readonly uptimeS: () => number;
  readonly addresses: () => readonly string[];
  readonly freeGb: (folder: string) => number;
  readonly startsByItself: () => boolean;
}

export const MACHINE = Symbol('machine');

/** Written by Linux (random(4)); where there is none, each start of Mistpeak counts as one of the computer. */
const BOOT_ID = '/proc/sys/kernel/random/boot_id';
/** A service that is enabled for the usual target (systemd.unit(5), "WantedBy="). */
const ENABLED = '/etc/systemd/system/multi-user.target.wants/mistpeak.service';

export const systemMachine: Machine = {
  bootId: () => (existsSync(BOOT_ID) ? readFileSync(BOOT_ID, 'utf8').trim() : String(process.pid)),
  uptimeS: () => uptime(),
  addresses: () => ownAddresses(),
  freeGb: (folder) => {
    const { bavail, bsize } = statfsSync(folder);
    return (bavail * bsize) / 2 ** 30;
  },
  startsByItself: () => existsSync(ENABLED),
};
