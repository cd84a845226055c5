import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodePcap } from '@mistpeak/core/pcap/pcap';

/** A field as the analyser found it: its octets or bits in hex, where it begins, how long it is. */
type RawField = readonly [hex: string, at: number, length: number, mask: number, type: number];

/** One frame as a general network analyser dissects it. */
export interface Dissected {
  /** Of any depth, by name (`ax25.dst`), in hex as they stand in the frame; numbers where the analyser shows one. */
  readonly fields: ReadonlyMap<string, string>;
  /** What it leaves to the layer above AX.25, hex. */
  readonly infoHex: string;
}

/** Debian's tshark reads a capture of these frames; it knows nothing of our code. */
export function dissect(frames: readonly Uint8Array[]): Dissected[] {
  const folder = mkdtempSync(join(tmpdir(), 'mistpeak-analyser-'));
  const file = join(folder, 'frames.pcap');
  writeFileSync(
    file,
    encodePcap(frames.map((frame, i) => ({ atMs: i, packet: Uint8Array.of(0, ...frame) }))),
  );
  const text = execFileSync(
    'tshark',
    ['-r', file, '-n', '-o', 'ax25_nol3.showaprs:TRUE', '-T', 'jsonraw', '--no-duplicate-keys'],
    { encoding: 'utf8', maxBuffer: 1 << 30, stdio: ['ignore', 'pipe', 'ignore'] },
  );
  rmSync(folder, { recursive: true });
  return (JSON.parse(text) as { _source: { layers: Record<string, unknown> } }[]).map(({ _source }) =>
    dissected(_source.layers),
  );
}

function dissected(layers: Record<string, unknown>): Dissected {
  const fields = new Map<string, string>();
  collect(layers, fields);
  const [frame] = layers.frame_raw as RawField;
  const [, at, length] = layers.ax25_raw as RawField;
  return { fields, infoHex: frame.slice(2 * (at + length)) };
}

function collect(node: unknown, fields: Map<string, string>): void {
  if (typeof node !== 'object' || node === null) return;
  for (const [key, value] of Object.entries(node)) {
    if (key.endsWith('_raw') && Array.isArray(value)) fields.set(key.slice(0, -4), String(value[0]));
    else if (!Array.isArray(value)) collect(value, fields);
  }
}
