import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

/** A Debian package and a file that shows that it is there. */
export interface Needed {
  readonly packages: readonly string[];
  readonly present: () => boolean;
  readonly before?: string;
}

const CREATE_NO_CLUSTER = `mkdir -p /etc/postgresql-common
grep -qs '^create_main_cluster' /etc/postgresql-common/createcluster.conf ||
  echo 'create_main_cluster = false' >> /etc/postgresql-common/createcluster.conf`;

export const POSTGRES: Needed = {
  packages: ['postgresql'],
  present: () => postgresBinaries() !== undefined,
  // Debian's package would start a cluster of its own on the usual port.
  before: CREATE_NO_CLUSTER,
};
export const CHROMIUM: Needed = {
  packages: ['chromium-headless-shell', 'fonts-liberation'],
  present: () => existsSync('/usr/bin/chromium-headless-shell'),
};
/** A general network analyser that reads our frames in the tests. */
export const TSHARK: Needed = { packages: ['tshark'], present: () => existsSync('/usr/bin/tshark') };
export const SOCAT: Needed = { packages: ['socat'], present: () => existsSync('/usr/bin/socat') };

/** A general FSK tool that reads our modem's sound in the tests, and makes sound for it. */
export const MINIMODEM: Needed = { packages: ['minimodem'], present: () => existsSync('/usr/bin/minimodem') };
/** A general archive tool that reads our compression in the tests. */
export const LHASA: Needed = { packages: ['lhasa'], present: () => existsSync('/usr/bin/lhasa') };
/** Runs the script that checks the modem's sound independently. */
export const NUMPY: Needed = {
  packages: ['python3-numpy'],
  present: () => existsSync('/usr/lib/python3/dist-packages/numpy'),
};

/** Reads and plays the sound cards of this machine. */
export const ALSA: Needed = { packages: ['alsa-utils'], present: () => existsSync('/usr/bin/arecord') };

/** The folder of PostgreSQL's own programs, version 15 or newer. */
export function postgresBinaries(): string | undefined {
  for (let version = 30; version >= 15; version--) {
    const folder = `/usr/lib/postgresql/${version}/bin`;
    if (existsSync(`${folder}/initdb`)) return folder;
  }
  return undefined;
}

/** Installs what is missing, asking nothing, as root or with sudo; else says exactly what to type. */
export function install(...needed: readonly Needed[]): void {
  const missing = needed.filter(({ present }) => !present());
  if (missing.length === 0) return;
  const packages = missing.flatMap((one) => one.packages);
  const script = [
    'set -e',
    ...missing.flatMap(({ before }) => before ?? []),
    'export DEBIAN_FRONTEND=noninteractive',
    'apt-get -q -o DPkg::Lock::Timeout=400 update',
    `apt-get -q -y -o DPkg::Lock::Timeout=400 install --no-install-recommends ${packages.join(' ')}`,
  ].join('\n');
  const asRoot = rootCommand();
  if (!asRoot) throw new Error(cannotInstall(packages));
  console.error(`Installing ${packages.join(', ')} from Debian ...`);
  const [command = 'sh', ...rest] = [...asRoot, 'sh', '-c', script];
  const { status, stderr, stdout } = spawnSync(command, rest, { encoding: 'utf8' });
  if (status !== 0)
    throw new Error(`${stdout.slice(-2000)}${stderr.slice(-2000)}\n${cannotInstall(packages)}`);
  const still = missing.filter(({ present }) => !present()).flatMap((one) => one.packages);
  if (still.length > 0)
    throw new Error(`Installed ${still.join(', ')}, but the programs are not where they should be.`);
}

function rootCommand(): string[] | undefined {
  if (process.getuid?.() === 0) return [];
  return spawnSync('sudo', ['-n', 'true']).status === 0 ? ['sudo', '-n'] : undefined;
}

function cannotInstall(packages: readonly string[]): string {
  return `Mistpeak needs packages that only root can install. Type:\n\n    sudo apt-get update && sudo apt-get install --no-install-recommends ${packages.join(' ')}\n\nthen start again.`;
}
