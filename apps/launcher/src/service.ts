import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { HOME } from './home.js';

export const UNIT = 'mistpeak.service';
const FOLDER = '/etc/systemd/system';

export interface ServiceOptions {
  /** As which user; the one who asked for it. */
  readonly user: string;
  readonly data: string;
  readonly port: number | undefined;
  readonly lan: boolean;
}

/** One word of a command line in a unit (systemd.service(5), "Command lines"; systemd.unit(5), "Specifiers"). */
export const word = (text: string): string =>
  `"${text.replace(/\\/g, '\\\\').replace(/"/g, '\\"').replace(/%/g, '%%').replace(/\$/g, '$$$$')}"`;

/** What a Debian machine starts with itself: after the network and the clock, again whenever it ends, and with nobody logged in. */
export function unitText({ user, data, port, lan }: ServiceOptions, node = process.execPath): string {
  const command = [
    join(HOME, 'mistpeak'),
    'start',
    '--data',
    data,
    ...(port === undefined ? [] : ['--port', String(port)]),
    ...(lan ? ['--lan'] : []),
  ];
  return `[Unit]
Description=Mistpeak
After=network.target time-sync.target
StartLimitIntervalSec=0

[Service]
Type=simple
User=${user}
WorkingDirectory=${word(HOME).slice(1, -1)}
Environment="PATH=${join(node, '..').replace(/%/g, '%%')}:/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin"
ExecStart=${command.map(word).join(' ')}
Restart=always
RestartSec=5
KillSignal=SIGINT
TimeoutStopSec=40

[Install]
WantedBy=multi-user.target
`;
}

/** What the machine’s own checker says against it; empty: nothing, or there is no checker. */
export function verified(text: string): string {
  const folder = mkdtempSync(join(tmpdir(), 'mistpeak-unit-'));
  try {
    const file = join(folder, UNIT);
    writeFileSync(file, text);
    const { error, status, stderr } = spawnSync('systemd-analyze', ['verify', file], { encoding: 'utf8' });
    // Only what it says of this very file: other units of the machine may have troubles of their own.
    const own = (stderr ?? '').split('\n').filter((line) => line.includes(UNIT));
    return error || status === 0 ? '' : own.join('\n');
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Printed, checked, written and enabled. into: another folder than systemd’s, where nothing is enabled. */
export function installService(options: ServiceOptions, into: string | undefined): number {
  const text = unitText(options);
  console.log(text);
  const trouble = verified(text);
  if (trouble !== '') {
    console.error(`systemd does not take it:\n${trouble}`);
    return 1;
  }
  const folder = into ?? FOLDER;
  if (into === undefined && process.getuid?.() !== 0) {
    console.error(`This is what would be written to ${join(FOLDER, UNIT)}. Run it with sudo to write it.`);
    return 1;
  }
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, UNIT), text);
  console.log(`Written to ${join(folder, UNIT)}.`);
  if (into === undefined) systemctl('daemon-reload', 'enable', '--now');
  return 0;
}

/** It starts by itself no more; what it kept stays. */
export function removeService(into: string | undefined): number {
  const file = join(into ?? FOLDER, UNIT);
  if (!existsSync(file)) {
    console.log('There is no such service.');
    return 0;
  }
  if (into === undefined) {
    if (process.getuid?.() !== 0) {
      console.error('Run it with sudo to take it back.');
      return 1;
    }
    systemctl(undefined, 'disable', '--now');
  }
  rmSync(file);
  if (into === undefined) systemctl('daemon-reload');
  console.log(`${file} is gone. What Mistpeak has kept stays where it is.`);
  return 0;
}

function systemctl(first: string | undefined, ...rest: readonly string[]): void {
  if (first !== undefined) execFileSync('systemctl', [first], { stdio: 'inherit' });
  if (rest.length > 0) execFileSync('systemctl', [...rest, UNIT], { stdio: 'inherit' });
}
